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
const cache = new Map<string, Part[] | null>();

/** What a piece of a pattern takes: these characters, one that it says yes to, any number of them, or one of some words. */
type Step = string | ((character: string) => boolean) | typeof STAR | readonly string[];
const STAR = Symbol('any number of characters');
/** What lies between two slashes: a word, anything, or what takes some looking. */
type Part = string | typeof STAR | readonly Step[];

/**
 * Whether addresses match a pattern. One that is not well formed, or longer than 256 characters, matches nothing. It takes no longer than
 * pattern times address: all places that a pattern may have come to go along together, and none is gone back to.
 */
export function matcherOf(pattern: string): (address: string) => boolean {
  if (!isPattern(pattern)) return (address) => address === pattern;
  const parts = partsOf(pattern);
  return parts === null ? () => false : (address) => leadsThrough(parts, address);
}

export const matchesAddress = (pattern: string, address: string): boolean => matcherOf(pattern)(address);

function leadsThrough(parts: readonly Part[], address: string): boolean {
  let at = 0;
  for (let i = 0; i < parts.length; i++) {
    const slash = address.indexOf('/', at);
    if (slash < 0 !== (i === parts.length - 1)) return false;
    const end = slash < 0 ? address.length : slash;
    const part = parts[i]!;
    if (typeof part === 'string') {
      if (end - at !== part.length || !address.startsWith(part, at)) return false;
    } else if (part !== STAR && !leadsTo(end, part, address, at)) return false;
    at = end + 1;
  }
  return true;
}

function leadsTo(end: number, steps: readonly Step[], address: string, from: number): boolean {
  let places = [from];
  for (const step of steps) {
    places = after(step, places, address, end);
    if (places.length === 0) return false;
  }
  return places.at(-1) === end;
}

/** The places in a part of an address, up to its end, that a step leads to from those that were reached before it; rising, each once. */
function after(step: Step, places: readonly number[], address: string, end: number): number[] {
  const reached: number[] = [];
  if (typeof step === 'string') {
    for (const place of places) if (address.startsWith(step, place)) reached.push(place + step.length);
  } else if (typeof step === 'function') {
    for (const place of places) if (place < end && step(address[place]!)) reached.push(place + 1);
  } else if (step === STAR) {
    for (let place = places[0]!; place <= end; place++) reached.push(place);
  } else {
    const some = new Set<number>();
    for (const word of step) for (const place of places) if (address.startsWith(word, place)) some.add(place + word.length);
    reached.push(...[...some].sort((one, other) => one - other));
  }
  return reached;
}

function partsOf(pattern: string): Part[] | null {
  let parts = cache.get(pattern);
  if (parts === undefined) {
    const read = pattern.length > LONGEST ? [null] : pattern.split('/').map(partOf);
    parts = read.includes(null) ? null : (read as Part[]);
    if (cache.size >= CACHE_MOST) cache.clear();
    cache.set(pattern, parts);
  }
  return parts;
}

function partOf(text: string): Part | null {
  const steps = read(text);
  if (steps === null || steps.length === 0) return steps && '';
  const [only] = steps;
  return steps.length === 1 && (typeof only === 'string' || only === STAR) ? only : steps;
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
