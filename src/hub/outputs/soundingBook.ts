import { STATUS } from '../../core/midi/message';

const CHANNELS = 16;
const NOTES = 128;
/** Bytes of one output in the memory of a book: a bit for each key of each channel. */
export const BYTES_PER_OUTPUT = (CHANNELS * NOTES) / 8;

export interface SoundingKey {
  /** From 0. */
  channel: number;
  note: number;
}

/** Where a book writes down what sounds, so that a note can be ended even where this process dies; a file, or nothing. */
export interface SoundingStore {
  /** The outputs that a book has, by their place. */
  outputs: readonly string[];
  /** Bits as they were left, by place of the output. */
  bits: Uint8Array;
  /** Gives an output a place; null where there is no more. */
  add(output: string): number | null;
  /** The byte at a place is another now. */
  changed(at: number): void;
}

/**
 * The notes that sound, by output: everything that begins or ends one passes through here, whoever sends it. A note off
 * that ends nothing does not pass, so each note on that left has exactly one.
 */
export class SoundingBook {
  /** Outputs that there was no room to write down: their note offs all pass, one too many rather than one too few. */
  private readonly unwritten = new Set<string>();

  constructor(private readonly store: SoundingStore) {}

  /** Whether a message may leave; one that begins or ends a note is written down. */
  admits(output: string, bytes: Uint8Array): boolean {
    const status = bytes[0]!;
    const kind = status & 0xf0;
    if (kind !== STATUS.noteOn && kind !== STATUS.noteOff) return true;
    const on = kind === STATUS.noteOn && bytes[2]! > 0;
    const place = this.placeOf(output, on);
    if (place === null) {
      if (on) this.unwritten.add(output);
      return on || this.unwritten.has(output);
    }
    const key = (status & 0x0f) * NOTES + bytes[1]!;
    const at = place * BYTES_PER_OUTPUT + (key >> 3);
    const bit = 1 << (key & 7);
    const before = this.store.bits[at]!;
    const after = on ? before | bit : before & ~bit;
    if (after !== before) {
      this.store.bits[at] = after;
      this.store.changed(at);
    }
    return on || (before & bit) !== 0;
  }

  /** What sounds on an output. */
  on(output: string): SoundingKey[] {
    const place = this.placeOf(output, false);
    if (place === null) return [];
    const keys: SoundingKey[] = [];
    for (let key = 0; key < CHANNELS * NOTES; key++) {
      if (this.store.bits[place * BYTES_PER_OUTPUT + (key >> 3)]! & (1 << (key & 7))) keys.push({ channel: key >> 7, note: key & 127 });
    }
    return keys;
  }

  private placeOf(output: string, make: boolean): number | null {
    const place = this.store.outputs.indexOf(output);
    if (place >= 0) return place;
    return make ? this.store.add(output) : null;
  }
}

/** A store that forgets with the process: for tests, and where no file can be written. */
export function memoryStore(most = 64): SoundingStore {
  const outputs: string[] = [];
  return {
    outputs,
    bits: new Uint8Array(most * BYTES_PER_OUTPUT),
    add: (output) => (outputs.length < most ? outputs.push(output) - 1 : null),
    changed: () => undefined,
  };
}
