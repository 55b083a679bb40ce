import { STATUS } from './message';

const CENTRE_MSB = 64;
/** Sustain to hold 2 (MIDI 1.0, table III). */
const [FIRST_PEDAL, LAST_PEDAL] = [64, 69];

/** What is away from where it rests when nobody plays, at several outputs: bends, pedals and the pressure of channels. */
export class Away {
  private readonly rests = new Map<string, { output: string; bytes: Uint8Array }>();

  /** A message went to an output. */
  hear(output: string, bytes: Uint8Array): void {
    const rest = restOf(bytes);
    if (!rest) return;
    const what = `${output} ${keyOf(rest)}`;
    if (isRest(bytes, rest)) this.rests.delete(what);
    else this.rests.set(what, { output, bytes: rest });
  }

  /** The messages that bring all of it to rest: pedals first, so that what they hold does not bend while it ends. */
  letGo(): { output: string; bytes: Uint8Array }[] {
    const all = [...this.rests.values()].sort((a, b) => (a.bytes[0]! & 0xf0) - (b.bytes[0]! & 0xf0));
    this.rests.clear();
    return all;
  }
}

/** Which bend, pedal or pressure of an output a message brings to rest; null where it brings none there. */
export function broughtToRest(bytes: Uint8Array): string | null {
  const rest = restOf(bytes);
  return rest && isRest(bytes, rest) ? keyOf(rest) : null;
}

const isRest = (bytes: Uint8Array, rest: Uint8Array) => rest.every((byte, i) => byte === bytes[i]);
/** Of a controller which; a bend and a pressure are one a channel. */
const keyOf = (rest: Uint8Array) => `${rest[0]} ${rest[0]! < STATUS.programChange ? rest[1] : ''}`;

/** The message that brings to rest what a message is about; null where that has no rest. */
function restOf(bytes: Uint8Array): Uint8Array | null {
  const status = bytes[0]!;
  switch (status & 0xf0) {
    case STATUS.pitchBend:
      return Uint8Array.of(status, 0, CENTRE_MSB);
    case STATUS.channelPressure:
      return Uint8Array.of(status, 0);
    case STATUS.controlChange:
      return bytes[1]! >= FIRST_PEDAL && bytes[1]! <= LAST_PEDAL ? Uint8Array.of(status, bytes[1]!, 0) : null;
    default:
      return null;
  }
}
