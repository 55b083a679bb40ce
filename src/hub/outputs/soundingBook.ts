import { HOLDING_PEDALS, holdsNotes } from '../../core/midi/controllers';
import { STATUS } from '../../core/midi/message';

const CHANNELS = 16;
const NOTES = 128;
/** Bytes of one output in the memory of a book: a bit for each key of each channel, and elsewhere one for each pedal that holds notes. */
const KEY_BYTES = (CHANNELS * NOTES) / 8;
const PEDAL_BYTES = (CHANNELS * HOLDING_PEDALS.length) / 8;
/** Pedals come after the keys of all outputs. */
export const bytesFor = (outputs: number): number => outputs * (KEY_BYTES + PEDAL_BYTES);

export interface SoundingKey {
  /** From 0. */
  channel: number;
  note: number;
}

export interface HeldPedal {
  /** From 0. */
  channel: number;
  controller: number;
}

/** Where a book writes down what sounds, so that a note can be ended even where this process dies; a file, or nothing. */
export interface SoundingStore {
  /** The outputs that a book has, by their place. */
  outputs: readonly string[];
  /** So many it has room for. */
  most: number;
  /** Bits as they were left (see `bytesFor`), by place of the output. */
  bits: Uint8Array;
  /** Gives an output a place; null where there is no more. */
  add(output: string): number | null;
  /** The byte at a place is another now. */
  changed(at: number): void;
}

/**
 * The notes that sound and the pedals that hold them, by output: everything that begins or ends one passes through here, whoever sends
 * it. A note off that ends nothing does not pass, so each note on that left has exactly one.
 */
export class SoundingBook {
  /** Outputs that there was no room to write down: their note offs all pass, one too many rather than one too few. */
  private readonly unwritten = new Set<string>();

  constructor(private readonly store: SoundingStore) {}

  /** Whether a message may leave; one that begins or ends a note is written down. */
  admits(output: string, bytes: Uint8Array): boolean {
    const status = bytes[0]!;
    const kind = status & 0xf0;
    if (kind === STATUS.controlChange && holdsNotes(bytes[1]!)) this.pedal(output, status & 0x0f, bytes[1]!, bytes[2]! > 0);
    if (kind !== STATUS.noteOn && kind !== STATUS.noteOff) return true;
    const on = kind === STATUS.noteOn && bytes[2]! > 0;
    const place = this.placeOf(output, on);
    if (place === null) {
      if (on) this.unwritten.add(output);
      return on || this.unwritten.has(output);
    }
    return this.turn(place * KEY_BYTES, (status & 0x0f) * NOTES + bytes[1]!, on) || on;
  }

  /** What sounds on an output. */
  on(output: string): SoundingKey[] {
    const place = this.placeOf(output, false);
    if (place === null) return [];
    const keys: SoundingKey[] = [];
    for (let key = 0; key < CHANNELS * NOTES; key++) if (this.isSet(place * KEY_BYTES, key)) keys.push({ channel: key >> 7, note: key & 127 });
    return keys;
  }

  /** The pedals that are down there. */
  pedalsOn(output: string): HeldPedal[] {
    const place = this.placeOf(output, false);
    if (place === null) return [];
    const all = Array.from({ length: CHANNELS }, (_, channel) => HOLDING_PEDALS.map((controller, i) => ({ channel, controller, bit: channel * HOLDING_PEDALS.length + i }))).flat();
    return all.filter(({ bit }) => this.isSet(this.pedalsOf(place), bit)).map(({ channel, controller }) => ({ channel, controller }));
  }

  private pedal(output: string, channel: number, controller: number, down: boolean): void {
    const place = this.placeOf(output, down);
    if (place !== null) this.turn(this.pedalsOf(place), channel * HOLDING_PEDALS.length + (HOLDING_PEDALS as readonly number[]).indexOf(controller), down);
  }

  private pedalsOf(place: number): number {
    return this.store.most * KEY_BYTES + place * PEDAL_BYTES;
  }

  private isSet(from: number, bit: number): boolean {
    return (this.store.bits[from + (bit >> 3)]! & (1 << (bit & 7))) !== 0;
  }

  /** Sets or clears a bit; whether it was set. */
  private turn(from: number, bit: number, on: boolean): boolean {
    const at = from + (bit >> 3);
    const mask = 1 << (bit & 7);
    const before = this.store.bits[at]!;
    const after = on ? before | mask : before & ~mask;
    if (after !== before) {
      this.store.bits[at] = after;
      this.store.changed(at);
    }
    return (before & mask) !== 0;
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
    most,
    bits: new Uint8Array(bytesFor(most)),
    add: (output) => (outputs.length < most ? outputs.push(output) - 1 : null),
    changed: () => undefined,
  };
}

/** Whether nothing sounds and no pedal is down at the output of a place. */
export function isSilent({ bits, most }: Pick<SoundingStore, 'bits' | 'most'>, place: number): boolean {
  const isZero = (from: number, bytes: number) => bits.subarray(from + place * bytes, from + (place + 1) * bytes).every((byte) => byte === 0);
  return isZero(0, KEY_BYTES) && isZero(most * KEY_BYTES, PEDAL_BYTES);
}
