import { STATUS } from './message';

const NOTE_BYTES = 3;

/**
 * Of what waits in order, that which stays where no note is to begin any more: a note that has not begun goes, and its end with it. The ends
 * of notes that have begun stay, as does all else.
 */
export function withoutBeginnings<T extends { bytes: Uint8Array }>(waiting: readonly T[]): T[] {
  const unbegun = new Map<number, number>();
  return waiting.filter(({ bytes }) => {
    const kind = bytes[0]! & 0xf0;
    if (bytes.length !== NOTE_BYTES || (kind !== STATUS.noteOn && kind !== STATUS.noteOff)) return true;
    const key = (bytes[0]! & 0x0f) * 128 + bytes[1]!;
    const count = unbegun.get(key) ?? 0;
    const begins = kind === STATUS.noteOn && bytes[2]! > 0;
    if (!begins && count === 0) return true;
    unbegun.set(key, count + (begins ? 1 : -1));
    return false;
  });
}
