import type { Fields } from './shapes';

export type Range = [lo: number, hi: number];

/** What of an address a message lays hold on; see `core/ledger`. `other`: something without a number, met only by its equal. */
export interface Held {
  kind: 'zone' | 'controller' | 'parameter' | 'note' | 'bend' | 'pressure' | 'polyPressure' | 'program' | 'other';
  number: number | null;
  /** Where it is another than the message's own. */
  channel?: number;
}

/** What a message keeps of one of another kind in whose place it comes; numbers are free where it had none. */
export interface Before {
  channel: number;
  controller: number;
  note: number;
  /** Controllers of the channel that nothing uses, best first. */
  free: readonly number[];
}

/** Where a kind of message writes its bytes. */
export interface Pen {
  put(byte: number): void;
  three(status: number, data1: number, data2: number): void;
  /** Whether a parameter must be selected before its value. */
  mustSelect(output: number, channel: number, registered: boolean, parameter: number): boolean;
}

/** As the value that an address was sent before, where there is none or a receiver cannot be relied on to hold it. */
export const NOTHING = -1;

/** All that is known of a kind of message: one of these is one file, and a row in `index`. */
export interface MessageKind<M> {
  /** As people call it. */
  name: string;
  /** What leaves by an output is of one of these. */
  body: 'midi' | 'osc';
  /** The fields of its document besides `kind`. */
  fields: Fields;
  /** Whether it happens on a press rather than following a level: always, where a gate moves it, or never. */
  presses: 'always' | 'byGates' | 'never';
  /** What tells its addresses apart, besides the output. */
  address(message: M): string;
  /** The address in words, without the channel. */
  words(message: M): string;
  holds(message: M): readonly Held[];
  /** What it can hold: the ends in its own unit. Absent: it has no range. */
  limits?(message: M): Range;
  /** What of that is neither up nor down, in its own unit; absent: 0, or the end that is nearest to it. */
  restsAt?(message: M): number;
  /** The ends of its range in the numbers of the wire; absent: as they are, or 0 and 1 where it has none. */
  wireRange?(message: M, bendRangeSemitones: number): Range;
  /** The smallest and largest number of the wire; absent: 0 and 127. */
  wireLimits?(message: M): Range;
  /** Whether a rest in the middle of its signal is sent as exactly the middle. */
  hasMiddle: boolean;
  /** Whether its address holds a value at a receiver, which can be sent again; steps and presses are over once they were sent. */
  holdsValue: boolean;
  /** A new one. */
  fresh(before: Before): M;
  /** The same with its number counted on, nearest first; `free`: the controllers of a channel that nothing uses, best first. */
  others(message: M, free: (channel: number) => readonly number[]): Iterable<M>;
  /** What leaves at a level in [0, 1], for people; absent: laid onto its range and rounded. */
  leaving?(message: M, level: number): number;
  /** How much of what it can hold that is; absent: its share of the limits. */
  fullness?(message: M, level: number): number;
  /**
   * Writes a value of the wire.
   * @param before what the address was sent before, or NOTHING
   */
  write(message: M, value: number, pen: Pen, output: number, before: number): void;
}

/** All sixteen channels, from one on and round. */
export function channelsFrom(first: number): number[] {
  return Array.from({ length: 16 }, (_, i) => ((first - 1 + i) % 16) + 1);
}

/** A message on each of the sixteen channels, from its own on and round. */
export function onEachChannel<M extends { channel: number }>(message: M): M[] {
  return channelsFrom(message.channel).map((channel) => ({ ...message, channel }));
}
