import { broughtToRest } from '../../midi/away';
import { STATUS } from '../../midi/message';
import { MODES, type Mode } from '../../voices/scale';
import { beginsNote, channelOf, endsAtMs, endsNote, isOfChannel, lineOf, NONE, notesOf, statusOf, type TakeNote } from '../notes';
import type { ScoreMessage } from '../score';
import { settle } from './settle';

/** Notes that are shorter or softer than this go. */
export interface Drop {
  kind: 'drop';
  shorterMs: number;
  softer: number;
}

/** What a wobble cut is one note again: the same key struck again after a short gap, also with one short other note between. */
export interface Join {
  kind: 'join';
  gapMs: number;
}

/** Short gaps between the notes of a line are closed. */
export interface Legato {
  kind: 'legato';
  gapMs: number;
}

/** A note of a line ends where the next begins. */
export interface Overlaps {
  kind: 'overlaps';
}

/** Keys go to the nearest of a scale, of two equally near the lower. */
export interface Snap {
  kind: 'snap';
  /** 0 = C. */
  root: number;
  mode: Mode;
}

/** Strikes come nearer to their mean: 0 not at all, 1 all are the same. */
export interface Strikes {
  kind: 'strikes';
  amount: number;
}

/** Bends come nearer to the centre: 1 all the way. */
export interface Bends {
  kind: 'bends';
  amount: number;
}

/** The silence before the first note and after the last end goes, but for so much. */
export interface Trim {
  kind: 'trim';
  keepMs: number;
}

const without = (messages: readonly ScoreMessage[], gone: ReadonlySet<number>) => messages.filter((_, i) => !gone.has(i));

export function drop(messages: readonly ScoreMessage[], { shorterMs, softer }: Drop): ScoreMessage[] {
  const gone = new Set<number>();
  for (const note of notesOf(messages)) {
    const { atMs, bytes } = messages[note.on]!;
    if (bytes[2]! >= softer && endsAtMs(note, messages) - atMs >= shorterMs) continue;
    gone.add(note.on);
    if (note.off !== NONE) gone.add(note.off);
  }
  return settle(without(messages, gone));
}

/** In a zone or a run of channels the second stroke has a channel of its own: what belongs to it goes over to that of the first. */
export function join(messages: readonly ScoreMessage[], { gapMs }: Join): ScoreMessage[] {
  const gone = new Set<number>();
  const channels = new Map<number, number>();
  const startMs = (note: TakeNote) => messages[note.on]!.atMs;
  const sameKey = (a: TakeNote, b: TakeNote) => a.note === b.note && startMs(b) >= messages[a.off]!.atMs && (channelOf(messages[a.on]!) === channelOf(messages[b.on]!) || isFree(messages, a, b));
  for (const notes of linesOf(messages).values()) {
    let kept: TakeNote | null = null;
    notes.forEach((note, i) => {
      const before = kept;
      kept = note;
      if (!before || before.off === NONE) return;
      if (sameKey(before, note) && startMs(note) - messages[before.off]!.atMs <= gapMs) {
        gone.add(before.off);
        gone.add(note.on);
        for (const at of partsOf(messages, note)) channels.set(at, channelOf(messages[before.on]!));
        // What was joined goes on to the end of the second.
        kept = { ...before, off: note.off };
        return;
      }
      const next = notes[i + 1];
      const isWobble = next?.note === before.note && note.off !== NONE && startMs(next) - messages[before.off]!.atMs <= gapMs && startMs(note) >= startMs(before) && messages[note.off]!.atMs <= startMs(next) + gapMs;
      if (!isWobble || !sameKey(before, next)) return;
      gone.add(note.on);
      gone.add(note.off);
      kept = before;
    });
  }
  const joined = messages.map((message, i) => (channels.has(i) ? changed(message, 0, statusOf(message) | channels.get(i)!) : message));
  return settle(without(joined, gone));
}

/** Whether no other note begins on the channel of a note from its end to the end of another. */
function isFree(messages: readonly ScoreMessage[], note: TakeNote, until: TakeNote): boolean {
  const first = messages[note.on]!;
  for (let i = note.off; i < until.off; i++) {
    const message = messages[i]!;
    if (beginsNote(message) && channelOf(message) === channelOf(first) && message.source.output === first.source.output) return false;
  }
  return until.off !== NONE;
}

/** Where the messages of a note stand in the list: what is said of its channel with its beginning, what moves it, its end. */
function partsOf(messages: readonly ScoreMessage[], { on, off }: TakeNote): number[] {
  const first = messages[on]!;
  let from = on;
  while (from > 0 && messages[from - 1]!.atMs === first.atMs) from--;
  const parts: number[] = [];
  for (let i = from; i <= off; i++) {
    const message = messages[i]!;
    const isNote = beginsNote(message) || endsNote(message);
    if (lineOf(message) === lineOf(first) && isOfChannel(message) && channelOf(message) === channelOf(first) && (!isNote || i === on || i === off)) parts.push(i);
  }
  return parts;
}

export function legato(messages: readonly ScoreMessage[], { gapMs }: Legato): ScoreMessage[] {
  return withEnds(messages, (endMs, nextMs) => (nextMs > endMs && nextMs - endMs <= gapMs ? nextMs : endMs));
}

export function overlaps(messages: readonly ScoreMessage[]): ScoreMessage[] {
  return withEnds(messages, (endMs, nextMs) => Math.min(endMs, nextMs));
}

export function snap(messages: readonly ScoreMessage[], { root, mode }: Snap): ScoreMessage[] {
  const degrees = new Set<number>(MODES[mode].map((step) => (step + root) % 12));
  const nearest = (key: number): number => {
    for (let away = 0; away <= 12; away++) {
      if (key - away >= 0 && degrees.has((key - away) % 12)) return key - away;
      if (key + away <= 127 && degrees.has((key + away) % 12)) return key + away;
    }
    return key;
  };
  return settle(messages.map((message) => (isOfKey(message) ? changed(message, 1, nearest(message.bytes[1]!)) : message)));
}

export function strikes(messages: readonly ScoreMessage[], { amount }: Strikes): ScoreMessage[] {
  const means = new Map<string, { sum: number; count: number }>();
  for (const message of messages) {
    if (!beginsNote(message)) continue;
    const mean = means.get(lineOf(message)) ?? { sum: 0, count: 0 };
    means.set(lineOf(message), mean);
    mean.sum += message.bytes[2]!;
    mean.count++;
  }
  return messages.map((message) => {
    if (!beginsNote(message)) return message;
    const { sum, count } = means.get(lineOf(message))!;
    return changed(message, 2, Math.min(127, Math.max(1, Math.round(message.bytes[2]! + amount * (sum / count - message.bytes[2]!)))));
  });
}

const CENTRE = 8192;

export function bends(messages: readonly ScoreMessage[], { amount }: Bends): ScoreMessage[] {
  return messages.map((message) => {
    if (statusOf(message) !== STATUS.pitchBend) return message;
    const bend = message.bytes[1]! + message.bytes[2]! * 128;
    const to = Math.round(bend + amount * (CENTRE - bend));
    return changed(changed(message, 1, to & 0x7f), 2, to >> 7);
  });
}

export function trim(messages: readonly ScoreMessage[], { keepMs }: Trim): ScoreMessage[] {
  const notes = notesOf(messages);
  if (notes.length === 0) return [...messages];
  const firstMs = messages[notes[0]!.on]!.atMs;
  const lastMs = notes.reduce((latestMs, note) => Math.max(latestMs, endsAtMs(note, messages)), firstMs);
  const earlierMs = Math.max(0, firstMs - keepMs);
  const cutMs = lastMs + keepMs;
  // What was said before is said at the beginning, for the sound would be another without it; and what comes to rest later does so at
  // the end, for a pedal that stays down lets nothing end.
  const after = new Map<string, ScoreMessage>();
  for (const message of messages) {
    const rests = message.atMs > cutMs && isOfChannel(message) ? broughtToRest(message.bytes) : null;
    if (rests !== null) after.set(`${message.source.output} ${rests}`, message);
  }
  const kept = [...messages.filter(({ atMs }) => atMs <= cutMs), ...[...after.values()].map((message) => ({ ...message, atMs: cutMs }))];
  return settle(kept.map((message) => ({ ...message, atMs: Math.max(0, message.atMs - earlierMs) })));
}

function isOfKey(message: ScoreMessage): boolean {
  const status = statusOf(message);
  return status === STATUS.noteOn || status === STATUS.noteOff || status === STATUS.polyPressure;
}

function changed(message: ScoreMessage, at: number, byte: number): ScoreMessage {
  const bytes = message.bytes.slice();
  bytes[at] = byte;
  return { ...message, bytes };
}

/** The notes of each line in their order. */
function linesOf(messages: readonly ScoreMessage[]): Map<string, TakeNote[]> {
  const lines = new Map<string, TakeNote[]>();
  for (const note of notesOf(messages)) {
    const line = lineOf(messages[note.on]!);
    const notes = lines.get(line);
    if (notes) notes.push(note);
    else lines.set(line, [note]);
  }
  return lines;
}

/** Gives each note another end, which may depend on when the next of its line begins that begins later. */
function withEnds(messages: readonly ScoreMessage[], endOf: (endMs: number, nextMs: number) => number): ScoreMessage[] {
  const ends = new Map<number, number>();
  for (const notes of linesOf(messages).values()) {
    notes.forEach((note, i) => {
      if (note.off === NONE) return;
      const startMs = messages[note.on]!.atMs;
      let next = i + 1;
      while (next < notes.length && messages[notes[next]!.on]!.atMs <= startMs) next++;
      if (next < notes.length) ends.set(note.off, endOf(messages[note.off]!.atMs, messages[notes[next]!.on]!.atMs));
    });
  }
  return settleEnds(messages, ends);
}

/** Ends that come to stand where something begins stand before it. */
function settleEnds(messages: readonly ScoreMessage[], ends: ReadonlyMap<number, number>): ScoreMessage[] {
  const moved = messages.map((message, i) => ({ message: ends.has(i) ? { ...message, atMs: ends.get(i)! } : message, order: ends.has(i) ? 0 : 1, i }));
  moved.sort((a, b) => a.message.atMs - b.message.atMs || a.order - b.order || a.i - b.i);
  return settle(moved.map(({ message }) => message));
}
