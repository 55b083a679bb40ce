import type { ActiveSet } from './activeSet';
import type { Memory } from './memory';
import type { NoteBook } from './noteBook';
import type { NotePlayer } from './notePlayer';
import type { Ensemble } from './ensemble/ensemble';
import type { Plan } from './plan';
import type { Transport } from './transport';
import type { Writer } from './writer';

/** What the rooms of the engine share: the plan that is in force, what is remembered, and the ways out. */
export interface Running {
  plan: Plan;
  memory: Memory;
  writer: Writer;
  notes: NoteBook;
  player: NotePlayer;
  transport: Transport;
  ensemble: Ensemble;
  /** Mappings that need ticks. */
  active: ActiveSet;
  /** Derived signals that ticks may find elsewhere, by their place in the plan. */
  moving: ActiveSet;
  /** By derived signal: whether the tick that is under way moved it. */
  tickMoved: Uint8Array;
  /** In its only place: before this a tick has nothing to do for any of them. */
  quietUntilMs: Float64Array;
  /** Mappings whose level and signals whose value were computed since the caller last cleared them, to be shown. */
  movedMappings: ActiveSet;
  movedSignals: ActiveSet;
  /** Voice mappings of which something sounded, moved or ended since then. */
  movedVoices: ActiveSet;
  /**
   * In its only place when the next thing is due that has a moment of its own: a clock, a repeat, the end of a note. Infinity
   * for none. What goes on all the time does so on any tick. In an array: a fraction in a field would be allocated anew.
   */
  due: Float64Array;
  /** In its only place when something of the ensemble is due; Infinity for never. */
  ensembleDue: Float64Array;
  /** Whether members played or were switched since the caller last looked. */
  movedMembers: boolean;
  /** The latest time of all events. */
  nowMs: number;
  /** Whether a value is sent although it is the same as before: after an edit, or when a mapping comes on. */
  saysAnyway: boolean;
  /** Whether what comes on was held all the while: it is no press. */
  heldOn: boolean;
}

/** The ways out that belong to one plan. */
export type Ways = Pick<Running, 'writer' | 'notes' | 'active' | 'moving' | 'tickMoved' | 'quietUntilMs' | 'movedMappings' | 'movedSignals' | 'movedVoices'>;

/** A mapping needs ticks, from when its samples do not move it any more. */
export function keepActive({ active, memory, quietUntilMs }: Running, m: number): void {
  active.add(m);
  if (memory.quietMs[m]! < quietUntilMs[0]!) quietUntilMs[0] = memory.quietMs[m]!;
}

/** Something is due at this time. */
export function wanted({ due }: Pick<Running, 'due'>, timeMs: number): void {
  if (timeMs < due[0]!) due[0] = timeMs;
}
