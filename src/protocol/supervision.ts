/** Between the supervisor and its two children, over the channel that Node gives a child. */

/** How a child's start went. */
export type Started =
  | { kind: 'ready' }
  /** It cannot start and a restart would not help; the sentence is for the person who started it. */
  | { kind: 'fatal'; sentence: string };

/** `alive` answers the question of that name: the child goes its rounds. */
export type FromChild = Started | { kind: 'alive' };

export type ToChild = { kind: 'stop' } | { kind: 'alive' };
