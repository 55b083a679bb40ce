import { RhythmPattern } from 'tonal';
import { freeName } from '../rig/naming';
import { DRUMS, LANES_MOST, PATTERNS_MOST } from './kinds/pattern';
import type { Hit, Lane, Pattern, PatternPart } from './parts';

const STRIKE = 0.8;
const LASTS = 0.5;

const rising = (hits: readonly Hit[]) => [...hits].sort((a, b) => a.at - b.at);

/** A lane with a hit at a step, or with null none. */
export function putHit(lane: Lane, at: number, hit: Partial<Omit<Hit, 'at'>> | null): Lane {
  const before = lane.hits.find((known) => known.at === at);
  const others = lane.hits.filter((known) => known.at !== at);
  if (hit === null) return { ...lane, hits: others };
  const made = Object.fromEntries(Object.entries({ strike: STRIKE, lasts: LASTS, ...before, ...hit, at }).filter(([, value]) => value !== undefined)) as unknown as Hit;
  return { ...lane, hits: rising([...others, made]) };
}

/** A lane of another length; what lies beyond goes. */
export const withLength = (lane: Lane, length: number): Lane => ({ ...lane, length, hits: lane.hits.filter(({ at }) => at < length) });

/** So many hits, as evenly over the lane as they go (Euclidean rhythms: G. Toussaint, BRIDGES 2005), from the package `tonal`. */
export function spreadEvenly(lane: Lane, hits: number): Lane {
  const steps = hits <= 0 ? [] : RhythmPattern.euclid(lane.length, Math.min(hits, lane.length));
  return { ...lane, hits: steps.flatMap((on, at): Hit[] => (on ? [lane.hits.find((known) => known.at === at) ?? { at, strike: STRIKE, lasts: LASTS }] : [])) };
}

/** The part with one of its patterns made another. */
export function putPattern(part: PatternPart, place: number, pattern: Pattern): PatternPart {
  return { ...part, patterns: part.patterns.with(place, pattern) };
}

/** The lane of a pattern made another, or with null taken away. */
export function putLane(pattern: Pattern, place: number, lane: Lane | null): Pattern {
  return { ...pattern, lanes: lane === null ? pattern.lanes.toSpliced(place, 1) : pattern.lanes.with(place, lane) };
}

/** One more lane, on a drum that no lane plays yet, as long as the last one; the pattern as it is where it is full. */
export function addLane(pattern: Pattern): Pattern {
  if (pattern.lanes.length >= LANES_MOST) return pattern;
  const used = new Set(pattern.lanes.flatMap(({ plays }) => ('note' in plays ? [plays.note] : [])));
  const [name, note] = Object.entries(DRUMS).find(([, key]) => !used.has(key)) ?? ['lane', 60];
  return { ...pattern, lanes: [...pattern.lanes, { name, plays: { note }, length: pattern.lanes.at(-1)?.length ?? 16, hits: [] }] };
}

/** A copy of a pattern behind the others, under the next letter; the part as it is where it is full. */
export function addPattern(part: PatternPart, of: number): PatternPart {
  if (part.patterns.length >= PATTERNS_MOST) return part;
  const letters = [...'ABCDEFGH'];
  const names = part.patterns.map(({ name }) => name);
  const name = letters.find((letter) => !names.includes(letter)) ?? freeName('A', names);
  return { ...part, patterns: [...part.patterns, { ...part.patterns[of]!, name }] };
}

/** A pattern goes; the last one stays. What played it plays the one before. */
export function removePattern(part: PatternPart, place: number): PatternPart {
  if (part.patterns.length < 2) return part;
  const moved = (at: number) => Math.max(0, at >= place ? at - 1 : at);
  return { ...part, patterns: part.patterns.toSpliced(place, 1), present: moved(part.present), ...(part.fill && { fill: { ...part.fill, pattern: moved(part.fill.pattern) } }) };
}

/** The step of a lane that a beat is nearest to. */
export const stepAt = (beat: number, everyBeats: number, length: number): number => ((Math.round(beat / everyBeats) % length) + length) % length;
