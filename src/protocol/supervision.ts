/** Between the supervisor and its two children, over the channel that Node gives a child. */

export type FromChild =
  | { kind: 'ready' }
  /** The child cannot start and a restart would not help; the sentence is for the person who started it. */
  | { kind: 'fatal'; sentence: string };

export type ToChild = { kind: 'stop' };
