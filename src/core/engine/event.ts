import type { RigDocument } from '../rig/document';
import type { VoiceEvent } from '../voices/event';
import type { TransportAction } from '../messages/transport';

/**
 * Everything that can happen to the engine, with its time in ms of one clock of the caller's. Signals and mappings are named
 * by their index in the plan that is in force, scenes, inputs and outputs by their id.
 */
export type EngineEvent = { timeMs: number } & (
  | SampleEvent
  /**
   * A gate that was let go of because its line broke, and was held all the while: it is on again, and notes with it, but what a press does
   * once (toggle, recall, strike a program) was done.
   */
  | { kind: 'heldOn'; signal: number; value: number }
  | VoiceEvent
  /** A pedal (controllers 64 to 69) of a stream: 0 to 127. */
  | { kind: 'pedal'; stream: number; controller: number; value: number }
  /** A stream went, with voices that may still sound. */
  | { kind: 'endStream'; stream: number }
  /** Time passes: smoothing, gates, glides, notes and clocks go on. */
  | { kind: 'tick' }
  /** Begins: what needs no sample has its first value. Nothing is sent before. */
  | { kind: 'start' }
  | { kind: 'rig'; rig: RigDocument }
  | { kind: 'recall'; scene: string }
  /** The nominal value that a signal had in an earlier run; nothing is calibrated. */
  | { kind: 'restore'; signal: number; value: number }
  /** The tempo of a clock that is followed, in beats a minute, and where it stands where it says so; null goes back to that of the rig. */
  | { kind: 'tempo'; bpm: number | null; beat?: number }
  /** A tempo that was tapped; it holds until the rig says another. */
  | { kind: 'tapped'; bpm: number }
  | { kind: 'transport'; does: TransportAction }
  /** The piece goes on from this beat. */
  | { kind: 'goTo'; beat: number }
  /** Everything comes so many beats sooner, or with less than 0 later. */
  | { kind: 'nudge'; beats: number }
  /** Another level than that of the signal, to introduce a mapping to its receiver. */
  | { kind: 'show'; mapping: number; level: number }
  | { kind: 'sayAgain'; mappings: Iterable<number> }
  /** One whole message of an input that goes straight on to an output, and the end of all notes that did. */
  | { kind: 'pass'; input: string; output: string; bytes: Uint8Array }
  | { kind: 'endThru'; input: string }
  /** A receiver says at what value it stands, in the numbers of the wire, and where the signal would stand for that. */
  | { kind: 'cameBack'; mapping: number; value: number; signalValue: number }
  /** One whole message that a person sends to an output. */
  | { kind: 'send'; output: string; bytes: Uint8Array }
  /** One whole message of a take that is played, and the end of its notes. */
  | { kind: 'play'; output: string; bytes: Uint8Array }
  | { kind: 'endTake' }
  /** Tells the receiver of an output what it should be set to; see `receivers/setUp`. */
  | { kind: 'setUp'; output: string }
  | { kind: 'panic' }
  /** Ends every note that sounds. */
  | { kind: 'release' }
);

/** One sample of a signal, raw as its device gives it. On the hot path one such object is used again and again. */
export interface SampleEvent {
  kind: 'sample';
  signal: number;
  value: number;
}

/** An event that happens now, whenever that is. */
export type EventNow = EngineEvent extends infer Event ? (Event extends { timeMs: number } ? Omit<Event, 'timeMs'> : never) : never;
