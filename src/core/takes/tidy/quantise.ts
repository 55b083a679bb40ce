import { beginsNote, endsAtMs, lineOf, NONE, notesOf } from '../notes';
import type { ScoreMessage } from '../score';
import { settle } from './settle';

/** Notes go to a grid. */
export interface Quantise {
  kind: 'quantise';
  /** A line of the grid in beats: 1/4 for sixteenths, 1/3 for triplets of eighths. */
  gridBeats: number;
  /** Where the second of two lines lies between the first and the third: 0.5 is straight, 2/3 a triplet swing. */
  swing: number;
  /** How far each note goes: 0 not at all, 1 all the way. */
  strength: number;
  /** Whether the ends of notes go too. */
  ends: boolean;
  /** Where the grid begins. */
  fromMs: number;
}

/** The line of the grid that lies nearest, of two equally near the later. */
export function nearestLineMs(atMs: number, { gridBeats, swing, fromMs }: Quantise, bpm: number): number {
  const gridMs = (gridBeats * 60_000) / bpm;
  const pairMs = 2 * gridMs;
  const pair = Math.floor((atMs - fromMs) / pairMs);
  const first = fromMs + pair * pairMs;
  const lines = [first, first + swing * pairMs, first + pairMs];
  return lines.reduce((best, line) => (Math.abs(line - atMs) <= Math.abs(best - atMs) ? line : best));
}

/**
 * Each line of music (one mapping to one output) is stretched so that its notes begin on the grid. What lies between two
 * beginnings moves along in proportion (bends and pressures of a voice stay with it, a legato stays one), so that notes
 * never change their order within a line.
 */
export function quantise(messages: readonly ScoreMessage[], step: Quantise, bpm: number): ScoreMessage[] {
  const strength = Math.min(1, Math.max(0, step.strength));
  const to = (atMs: number) => Math.max(0, atMs + strength * (nearestLineMs(atMs, step, bpm) - atMs));
  const anchors = new Map<string, Map<number, number>>();
  const anchor = (line: string, from: number, target: number) => {
    const ofLine = anchors.get(line) ?? new Map<number, number>();
    anchors.set(line, ofLine);
    if (!ofLine.has(from)) ofLine.set(from, target);
  };
  for (const message of messages) if (beginsNote(message)) anchor(lineOf(message), message.atMs, to(message.atMs));
  if (step.ends) {
    for (const note of notesOf(messages)) {
      const on = messages[note.on]!;
      const endMs = endsAtMs(note, messages);
      // A note that would end where it begins keeps its share of the way instead.
      if (to(endMs) > to(on.atMs)) anchor(lineOf(on), endMs, to(endMs));
    }
  }
  const warps = new Map([...anchors].map(([line, points]) => [line, warpOf(points)]));
  const moved = messages.map((message) => ({ ...message, atMs: warps.get(lineOf(message))?.(message.atMs) ?? message.atMs }));
  // Where several beginnings come to one line, a note that lay between them would be nothing: it keeps its length.
  for (const { on, off } of notesOf(messages)) {
    const lengthMs = off === NONE ? 0 : messages[off]!.atMs - messages[on]!.atMs;
    if (lengthMs > 0 && moved[off]!.atMs <= moved[on]!.atMs) moved[off]!.atMs = moved[on]!.atMs + lengthMs;
  }
  return settle(moved);
}

/** Goes through points in straight lines, before the first and after the last beside it; never backwards. */
function warpOf(points: ReadonlyMap<number, number>): (atMs: number) => number {
  const sorted = [...points].sort(([a], [b]) => a - b);
  let highest = 0;
  const from = sorted.map(([at]) => at);
  const to = sorted.map(([, at]) => (highest = Math.max(highest, at)));
  return (atMs) => {
    let lo = 0;
    let hi = from.length - 1;
    if (atMs <= from[0]!) return Math.max(0, to[0]! + Math.min(0, atMs - from[0]!));
    if (atMs >= from[hi]!) return to[hi]! + atMs - from[hi]!;
    while (hi - lo > 1) {
      const middle = (lo + hi) >> 1;
      if (from[middle]! <= atMs) lo = middle;
      else hi = middle;
    }
    return to[lo]! + ((atMs - from[lo]!) / (from[hi]! - from[lo]!)) * (to[hi]! - to[lo]!);
  };
}
