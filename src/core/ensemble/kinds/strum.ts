import { choice, list, number, optional, whole } from '../../messages/shapes';
import type { StrumPart } from '../parts';
import type { KindOf, Playing } from '../kind';
import { clamp } from '../../units/unitInterval';
import { stopped, STRINGS_MOST, tunedTo } from '../theory/strings';
import { listensTo } from './listensTo';
import { gate, key, streamId } from './shapes';

interface Memory {
  /** Where the strip was last, NaN where nobody touched it since, and when. */
  x: number;
  xMs: number;
  /** The way that all strings were struck last. */
  up: boolean;
}
type Play = Playing<StrumPart, Memory>;

/** Strings of a strum of all by a gate come so far apart. */
const APART_BEATS = 1 / 48;
const SOFTEST = 0.1;
/** Of a strum by a gate that says nothing of its strength, and of two places at one time. */
const USUAL = 0.75;

function strings(play: Play): number[] {
  const { part } = play;
  const tones = play.harmony(part.listens)?.tones ?? [];
  return part.tuning ? stopped(part.tuning, tones) : tunedTo(tones, part.strings);
}

function strike(play: Play, string: number, pitches: readonly number[], hard: number, inBeats = 0): void {
  const pitch = pitches[string];
  if (pitch === undefined) return;
  const lasts = { ms: play.part.ringMs };
  if (inBeats > 0) play.later(inBeats, pitch, hard, lasts, string);
  else play.sound(pitch, hard, lasts, string);
}

/** The strings that lie between two places on the strip, in the order in which they are crossed. */
export function crossed(from: number, to: number, count: number): number[] {
  const place = (string: number) => (string + 0.5) / count;
  const all = Array.from({ length: count }, (_, string) => string);
  return to > from ? all.filter((string) => place(string) > from && place(string) <= to) : all.filter((string) => place(string) < from && place(string) >= to).reverse();
}

function cross(play: Play, across: string, x: number): void {
  const { memory, part, nowMs } = play;
  const { x: before, xMs } = memory;
  const onIt = part.touch === undefined || play.isOn(part.touch);
  memory.x = onIt ? x : NaN;
  memory.xMs = nowMs;
  if (!onIt || Number.isNaN(before) || x === before) return;
  const up = x > before;
  if (part.directions !== 'both' && (part.directions === 'up') !== up) return;
  const dtMs = Math.min(nowMs - xMs, play.wayMs(across));
  const hard = dtMs > 0 ? clamp((Math.abs(x - before) / dtMs) * part.fullMs, SOFTEST, 1) : USUAL;
  const pitches = strings(play);
  for (const string of crossed(before, x, pitches.length)) strike(play, string, pitches, hard);
}

export const strum: KindOf<'strum', Memory> = {
  name: 'Strum',
  about: 'Strikes the strings of a chord as a finger, a stick or a gate crosses them.',
  fields: {
    listens: streamId,
    across: gate,
    touch: gate,
    by: gate,
    strings: whole(1, STRINGS_MOST),
    tuning: optional(list(key, 1, STRINGS_MOST)),
    directions: choice('both', 'up', 'down'),
    ringMs: number(10, 60_000),
    dampedBy: choice('nothing', 'chord', 'letting go'),
    fullMs: number(1, 60_000),
  },
  fresh: (rig) => ({ kind: 'strum', listens: listensTo(rig, 'chord'), strings: 6, directions: 'both', ringMs: 3000, dampedBy: 'chord', fullMs: 150 }),
  words: ({ listens, tuning, strings: count, across, by }, nameOf) => `${tuning?.length ?? count} strings of ${nameOf(listens)}${across ? `, across ${nameOf(across)}` : ''}${by ? `, by ${nameOf(by)}` : ''}`,
  remember: () => ({ x: NaN, xMs: NaN, up: true }),
  hear(play, _, __, on) {
    if (on && play.part.dampedBy === 'chord') play.endAll();
  },
  asksBy: ({ by, touch }, signal) => by === signal || touch === signal,
  follow(play, signal, level, before) {
    const { part, memory } = play;
    if (signal === part.across) cross(play, signal, level);
    if (signal === part.touch) {
      // Where it comes down is crossed by nothing.
      memory.x = level > 0 && part.across !== undefined ? play.level(part.across) : NaN;
      memory.xMs = play.nowMs;
      if (!(level > 0) && part.dampedBy === 'letting go') play.endAll();
    }
    if (signal === part.by && level > 0 && !(before > 0) && !play.heldOn) {
      memory.up = part.directions === 'both' ? !memory.up : part.directions === 'up';
      const pitches = strings(play);
      pitches.forEach((_, i) => strike(play, memory.up ? i : pitches.length - 1 - i, pitches, level < 1 ? level : USUAL, i * APART_BEATS));
    }
  },
};
