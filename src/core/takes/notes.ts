import { STATUS } from '../midi/message';
import type { ScoreMessage } from './score';

/** A note of a list of messages: where it begins and where it ends in the list, NONE where it never does. */
export interface TakeNote {
  on: number;
  off: number;
  /** Which key of which output, as one text. */
  key: string;
  note: number;
}

export const NONE = -1;

export const statusOf = ({ bytes }: ScoreMessage) => (bytes[0] ?? 0) & 0xf0;
export const isMidi = ({ bytes }: ScoreMessage) => (bytes[0] ?? 0) >= STATUS.noteOff;
/** Of a message for one channel: which, 0 to 15. */
export const channelOf = ({ bytes }: ScoreMessage) => bytes[0]! & 0x0f;
export const isOfChannel = (message: ScoreMessage) => isMidi(message) && statusOf(message) < STATUS.sysEx;
/** A note on with velocity 0 is a note off (MIDI 1.0). */
export const beginsNote = (message: ScoreMessage) => statusOf(message) === STATUS.noteOn && message.bytes[2]! > 0;
export const endsNote = (message: ScoreMessage) => statusOf(message) === STATUS.noteOff || (statusOf(message) === STATUS.noteOn && message.bytes[2] === 0);
/** The key that a note message is about. */
export const keyOf = (message: ScoreMessage) => `${message.source.output} ${channelOf(message)} ${message.bytes[1]}`;
/** What plays together as one line: one mapping to one output. */
export const lineOf = ({ source }: ScoreMessage) => `${source.output} ${source.who} ${source.mapping}`;

/** The notes in the order in which they begin. One that is struck again while it sounds ends there. */
export function notesOf(messages: readonly ScoreMessage[]): TakeNote[] {
  const notes: TakeNote[] = [];
  const sounding = new Map<string, TakeNote>();
  messages.forEach((message, i) => {
    if (beginsNote(message)) {
      const key = keyOf(message);
      const note = { on: i, off: NONE, key, note: message.bytes[1]! };
      sounding.set(key, note);
      notes.push(note);
    } else if (endsNote(message)) {
      const key = keyOf(message);
      const note = sounding.get(key);
      if (!note) return;
      note.off = i;
      sounding.delete(key);
    }
  });
  return notes;
}

/** When a note ends: where it is struck again or the take is over, if nothing ends it. */
export function endsAtMs(note: TakeNote, messages: readonly ScoreMessage[]): number {
  if (note.off !== NONE) return messages[note.off]!.atMs;
  for (let i = note.on + 1; i < messages.length; i++) if (beginsNote(messages[i]!) && keyOf(messages[i]!) === note.key) return messages[i]!.atMs;
  return messages.at(-1)!.atMs;
}
