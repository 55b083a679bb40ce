/**
 * OSC address patterns (Open Sound Control 1.0, "OSC Message Dispatching and Pattern Matching"): `?` is any one
 * character, `*` any number of them, `[abc]`, `[a-z]` and `[!a]` one of (or none of) a set, `{one,two}` one of some
 * words. None of them reaches over a slash.
 */
export function isPattern(address: string): boolean {
  return /[?*[\]{}]/.test(address);
}

/** Nobody writes a longer one, and a stranger's must not take long. */
const LONGEST = 256;
const CACHE_MOST = 512;
const cache = new Map<string, Step[] | null>();

/** What a piece of a pattern takes: these characters, one that it says yes to, any number of them, or one of some words. */
type Step = string | ((character: string) => boolean) | typeof STAR | readonly string[];
const STAR = Symbol('any number of characters');

/**
 * Whether a pattern matches an address. One that is not well formed, or longer than 256 characters, matches nothing. It takes no longer
 * than pattern times address: all places that a pattern may have come to go along together, and none is gone back to.
 */
export function matchesAddress(pattern: string, address: string): boolean {
  if (!isPattern(pattern)) return pattern === address;
  const steps = stepsOf(pattern);
  if (steps === null) return false;
  const [first] = steps;
  // Most are told apart by what they begin with.
  if (typeof first === 'string' && !address.startsWith(first)) return false;
  let places = new Set([0]);
  for (const step of steps) {
    places = after(step, places, address);
    if (places.size === 0) return false;
  }
  return places.has(address.length);
}

/** The places in an address that a step leads to, from those that were reached before it; each in its order. */
function after(step: Step, places: ReadonlySet<number>, address: string): Set<number> {
  const reached = new Set<number>();
  if (step === STAR) {
    for (const place of places) {
      for (let at = place; !reached.has(at); at++) {
        reached.add(at);
        if (at === address.length || address[at] === '/') break;
      }
    }
  } else if (typeof step === 'function') {
    for (const place of places) if (place < address.length && step(address[place]!)) reached.add(place + 1);
  } else {
    for (const word of typeof step === 'string' ? [step] : step) for (const place of places) if (address.startsWith(word, place)) reached.add(place + word.length);
  }
  return reached;
}

function stepsOf(pattern: string): Step[] | null {
  let steps = cache.get(pattern);
  if (steps === undefined) {
    steps = pattern.length > LONGEST ? null : read(pattern);
    if (cache.size >= CACHE_MOST) cache.clear();
    cache.set(pattern, steps);
  }
  return steps;
}

function read(pattern: string): Step[] | null {
  const steps: Step[] = [];
  for (let i = 0; i < pattern.length; i++) {
    const c = pattern[i]!;
    if (c === '?') steps.push((character) => character !== '/');
    else if (c === '*') steps.push(STAR);
    else if (c === '[' || c === '{') {
      const end = pattern.indexOf(c === '[' ? ']' : '}', i);
      if (end < 0) return null;
      const inside = pattern.slice(i + 1, end);
      const step = c === '[' ? set(inside) : words(inside);
      if (step === null) return null;
      steps.push(step);
      i = end;
    } else if (c === ']' || c === '}') return null;
    else if (typeof steps.at(-1) === 'string') steps.push(`${steps.pop() as string}${c}`);
    else steps.push(c);
  }
  return steps;
}

function set(inside: string): Step | null {
  const not = inside.startsWith('!');
  const members = not ? inside.slice(1) : inside;
  if (members === '') return null;
  const ranges: [from: string, to: string][] = [];
  for (let i = 0; i < members.length; i++) {
    if (members[i + 1] !== '-' || i + 2 >= members.length) ranges.push([members[i]!, members[i]!]);
    else {
      ranges.push([members[i]!, members[i + 2]!].sort() as [string, string]);
      i += 2;
    }
  }
  return (character) => character !== '/' && not !== ranges.some(([from, to]) => character >= from && character <= to);
}

const words = (inside: string): Step | null => (/[{[]/.test(inside) ? null : inside.split(','));
