/**
 * Something that leaves by an output. One object is used again for every message, so that playing allocates nothing: whoever
 * keeps any of it copies it.
 */
export interface Outgoing {
  /** The id of the output. */
  output: string;
  /** MIDI: whole messages that belong together (one, or the several of a 14-bit value or a parameter). OSC: one packet. */
  kind: OutgoingKind;
  bytes: Uint8Array;
  /** When it is due, hub time; an output never guesses it. */
  atMs: number;
  /** A newer value of one address may replace an older that still waits; KEEP where nothing may. */
  address: number;
  /** Who caused it: a mapping by its index in the plan, or one of the negative numbers of `core/engine/sink`. */
  by: number;
  /** Of OSC: the voice or pedal that it begins or ends. */
  held?: { what: string; ends: boolean } | undefined;
}

export type OutgoingKind = 'midi' | 'osc';
