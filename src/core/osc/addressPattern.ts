/**
 * OSC address patterns (Open Sound Control 1.0, "OSC Message Dispatching and Pattern Matching"): `?` is any one
 * character, `*` any number of them, `[abc]`, `[a-z]` and `[!a]` one of (or none of) a set, `{one,two}` one of some
 * words. None of them reaches over a slash.
 */
export function isPattern(address: string): boolean {
  return /[?*[\]{}]/.test(address);
}

/** Whether a pattern matches an address. A pattern that is not well formed matches nothing. */
export function matchesAddress(pattern: string, address: string): boolean {
  if (!isPattern(pattern)) return pattern === address;
  const expression = compiled(pattern);
  return expression !== null && expression.test(address);
}

const CACHE_MOST = 512;
const cache = new Map<string, RegExp | null>();

function compiled(pattern: string): RegExp | null {
  let expression = cache.get(pattern);
  if (expression === undefined) {
    expression = toExpression(pattern);
    if (cache.size >= CACHE_MOST) cache.clear();
    cache.set(pattern, expression);
  }
  return expression;
}

function toExpression(pattern: string): RegExp | null {
  let source = '';
  for (let i = 0; i < pattern.length; i++) {
    const c = pattern[i]!;
    if (c === '?') source += '[^/]';
    else if (c === '*') {
      // Several stars in a row say no more than one, and would make matching slow.
      if (pattern[i - 1] !== '*') source += '[^/]*';
    } else if (c === '[' || c === '{') {
      const end = pattern.indexOf(c === '[' ? ']' : '}', i);
      if (end < 0) return null;
      const inside = pattern.slice(i + 1, end);
      const part = c === '[' ? set(inside) : words(inside);
      if (part === null) return null;
      source += part;
      i = end;
    } else if (c === ']' || c === '}') return null;
    else source += escape(c);
  }
  return new RegExp(`^${source}$`);
}

function set(inside: string): string | null {
  const not = inside.startsWith('!');
  const members = not ? inside.slice(1) : inside;
  if (members === '') return null;
  let source = '';
  for (let i = 0; i < members.length; i++) {
    if (members[i + 1] === '-' && i + 2 < members.length) {
      const [from, to] = [members[i]!, members[i + 2]!].sort() as [string, string];
      source += `${escape(from)}-${escape(to)}`;
      i += 2;
    } else source += escape(members[i]!);
  }
  return not ? `[^${source}/]` : `(?!/)[${source}]`;
}

function words(inside: string): string | null {
  return /[{[]/.test(inside) ? null : `(?:${inside.split(',').map((word) => [...word].map(escape).join('')).join('|')})`;
}

const escape = (c: string) => c.replace(/[\\^$.*+?()[\]{}|/-]/, '\\$&');
