import { STATUS } from '../midi/message';
import { RELEASE_VELOCITY, type NoteOwner } from './noteBook';
import type { Running } from './running';

/** Owners of notes that no mapping struck. Inputs with a thru count on from here, downwards. */
export const SCENE: NoteOwner = -1;
export const FIRST_THRU: NoteOwner = -2;
/** Far from all of them, voice mappings included: what a person at the desk sent. */
export const HAND: NoteOwner = -(2 ** 30);
/** A take that is played. */
export const TAKE: NoteOwner = HAND - 1;

/** The owner of the notes that go through from an input. @param thrus those that were heard, in the order in which they were first; a new one joins them */
export function thruOf(thrus: string[], input: string): NoteOwner {
  const known = thrus.indexOf(input);
  return FIRST_THRU - (known >= 0 ? known : thrus.push(input) - 1);
}

/**
 * Lets one whole message out as it is, past the mappings; its notes go through the book like all others, so that they are
 * ended with what began them. The end of a note that does not sound, or that belongs to another by now, says nothing; a scene
 * and a person may end any.
 */
export function passMessage({ writer, notes }: Running, owner: NoteOwner, output: number, bytes: ArrayLike<number>, by: number): void {
  const status = bytes[0]!;
  const kind = status & 0xf0;
  if (kind !== STATUS.noteOn && kind !== STATUS.noteOff) return writer.raw(output, bytes, by);
  const channel = (status & 0x0f) + 1;
  const [note, velocity] = [bytes[1]!, bytes[2]!];
  if (kind === STATUS.noteOn && velocity > 0) return notes.strike(output, owner, channel, note, velocity, RELEASE_VELOCITY);
  // A note on with velocity 0 is a note off that says nothing of its velocity (MIDI 1.0).
  const release = kind === STATUS.noteOff ? velocity : RELEASE_VELOCITY;
  if (owner === SCENE || owner === HAND) notes.endKey(output, channel, note, release);
  else notes.end(output, owner, channel, note, release);
}

/** As `passMessage`, to an output by its id; false where the rig has none of it, or it takes no MIDI. */
export function passTo(r: Running, owner: NoteOwner, output: string, bytes: Uint8Array, by: number): boolean {
  const place = r.plan.outputIds.indexOf(output);
  if (place < 0 || !r.plan.midiOutput[place]) return false;
  passMessage(r, owner, place, bytes, by);
  return true;
}
