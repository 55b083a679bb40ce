import type { OscSent } from '../messages/osc';

/**
 * Who caused a message. `ending`: a note is ended because its way goes, or because an earlier hub left it. `return`: an output
 * that was away is told what it holds. `test`: somebody listens whether an output is heard. `setUp`: a receiver is set up for the rig. `hand`: a person chose it on the Outputs screen. `shown`: a level is
 * shown on a controller. `take`: a take is played.
 */
export const WHO = ['mapping', 'scene', 'thru', 'clock', 'panic', 'ending', 'return', 'test', 'setUp', 'hand', 'shown', 'voice', 'take'] as const;
export type Who = (typeof WHO)[number];

/** As the mapping of a message that none asked for: less than 0 by the place in the list of who did. */
export const BY_SCENE = -1;
export const BY_THRU = -2;
export const BY_CLOCK = -3;
export const BY_PANIC = -4;
export const BY_ENDING = -5;
export const BY_RETURN = -6;
export const BY_TEST = -7;
export const BY_SETUP = -8;
export const BY_HAND = -9;
export const BY_SHOWN = -10;
export const BY_TAKE = -12;

/** From here on up voice mappings are counted, by their index in the plan: beyond all mappings. */
export const VOICE_BASE = 2 ** 20;

export function whoOf(by: number): Who {
  return by >= VOICE_BASE ? 'voice' : by >= 0 ? 'mapping' : WHO[-by]!;
}

export { KEEP } from '../midi/keep';

/**
 * Where the engine's messages go. The bytes are whole MIDI messages that belong together (one, or the several of a
 * 14-bit value or a parameter); they lie in a buffer of the engine's that is used again after the call. Their time is the
 * engine's `messageMs`: a number with a fraction among the arguments would be allocated anew in every call.
 *
 * @param output index of the output in the plan
 * @param mapping index of the mapping in the plan, VOICE_BASE and on of the voice mapping, or one of the negative numbers above
 * @param address index of the address in the plan; a newer value of one address may replace an older that still waits.
 *   KEEP where nothing may
 */
export interface MessageSink {
  midi(output: number, mapping: number, bytes: Uint8Array, length: number, address: number): void;
  /** An OSC message. @param voice whether it begins a voice or ends it, or puts a pedal down or up, so that whoever keeps the book of what sounds knows */
  osc(output: number, mapping: number, path: string, args: readonly OscSent[], address: number, voice?: 'begins' | 'ends'): void;
  /** A scene was recalled, by whatever. */
  recalled?(scene: string): void;
}
