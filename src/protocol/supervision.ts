/** Between the supervisor and its two children, over the channel that Node gives a child. */

/** A note that sounds: which output, and the bytes that end it. */
export interface Sounding {
  output: string;
  off: [number, number, number];
}

export type FromChild =
  | { kind: 'ready' }
  /** The child cannot start and a restart would not help; the sentence is for the person who started it. */
  | { kind: 'fatal'; sentence: string }
  | { kind: 'noteOn'; note: Sounding }
  | { kind: 'noteOff'; note: Sounding };

export type ToChild = { kind: 'endNotes'; notes: Sounding[] } | { kind: 'stop' };
