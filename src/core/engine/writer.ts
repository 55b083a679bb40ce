import { STATUS } from '../midi/message';
import { channelOf, kindOf, type MessageSpec } from '../messages';
import { fillArguments, type OscSent } from '../messages/osc';
import { NOTHING, type Pen } from '../messages/kind';
import { placesBy } from './places';
import type { Plan } from './plan';
import { NONE, type PlannedMapping } from './planMapping';
import { endsAllNotes, movesSelection } from '../midi/controllers';
import { ParameterSelection } from './parameterSelection';
import { BY_CLOCK, KEEP, type MessageSink } from './sink';

/** A value of 7 bits that moves changes only when it is this far past the border, in steps (engine.md: 0.3). */
export const MOVING_STEPS = 0.5 + 0.3;
/** One that stands still, when it is this far past it (engine.md, Settled: 0.1). */
export const STILL_STEPS = 0.5 + 0.1;
/** Of a pressure: there already, or to be sent once its signal stands still. */
const HELD = -1;
export const WAITS = -2;
/** Bytes of a unit to begin with; a longer SysEx makes the buffer grow. */
const UNIT_BYTES = 64;

/**
 * Turns numbers into bytes, and remembers what each address was sent last, so that only changes leave; which parameter each
 * channel has selected; and which channels were used.
 */
export class Writer implements Pen {
  /** By address of the plan: the last value sent, NOTHING before the first. */
  readonly sent: Float64Array;
  readonly selected: ParameterSelection;
  /** By output: a bit for each channel that anything was sent on. */
  readonly used: Uint16Array;
  private bytes = new Uint8Array(UNIT_BYTES);
  private length = 0;

  constructor(
    addresses: number,
    private readonly slowOutput: readonly boolean[],
    private readonly sink: MessageSink,
    /** Told that what left ends all notes of a channel. @param channel 1 to 16 */
    private readonly onNotesEnd: (output: number, channel: number) => void,
  ) {
    this.sent = new Float64Array(addresses).fill(NOTHING);
    this.selected = new ParameterSelection(slowOutput.length);
    this.used = new Uint16Array(slowOutput.length);
  }

  /**
   * Sends `exact`, in the numbers of the wire, where it differs enough from what the address holds.
   * @param still whether the signal stands still, so that the nearest step is sent
   * @returns whether the value waits for the signal to stand still
   */
  value(mapping: PlannedMapping, m: number, exact: number, still: boolean): boolean {
    if (mapping.isOsc) return this.oscValue(mapping, m, exact, still);
    const { address, output, rig } = mapping;
    const sent = this.sent[address]!;
    const limited = exact < mapping.least ? mapping.least : exact > mapping.most ? mapping.most : exact;
    const value = Math.round(limited);
    if (value === sent) return false;
    // The ends of a range are always reached, whatever the hysteresis says.
    if (mapping.most === 127 && sent !== NOTHING && exact !== mapping.outLo && exact !== mapping.outHi) {
      const away = Math.abs(limited - sent);
      if (away < (still ? STILL_STEPS : MOVING_STEPS)) return away > STILL_STEPS;
    }
    this.sent[address] = value;
    // Nearly all that leaves is a plain controller: its three bytes are written without looking at the message again.
    if (mapping.status !== NONE) {
      const { bytes } = this;
      bytes[0] = mapping.status;
      bytes[1] = mapping.controller;
      bytes[2] = value;
      this.used[output]! |= mapping.channelBit;
      this.sink.midi(output, m, bytes, 3, address);
      return false;
    }
    if (!kindOf(rig.message).holdsValue) return false;
    this.write(rig.message, value, output, this.slowOutput[output] ? NOTHING : sent);
    this.flush(output, m, address);
    return false;
  }

  /** Of whole numbers the same is not said again, nor does one tremble between two, as none of 7 bits does. */
  private oscValue({ address, output, rig: { message }, isWhole, outLo, outHi }: PlannedMapping, m: number, exact: number, still: boolean): boolean {
    const sent = this.sent[address]!;
    const value = isWhole ? Math.round(exact) : exact;
    if (value === sent || message.kind !== 'osc') return false;
    if (isWhole && sent !== NOTHING && exact !== outLo && exact !== outHi) {
      const away = Math.abs(exact - sent);
      if (away < (still ? STILL_STEPS : MOVING_STEPS)) return away > STILL_STEPS;
    }
    this.sent[address] = value;
    this.sink.osc(output, m, message.address, fillArguments(message.arguments, value), address);
    return false;
  }

  /** Takes over what is known of a receiver from the writer of another plan; `places` are the outputs of that plan in this one. */
  carry(plan: Plan, from: Writer, fromPlan: Plan, places: readonly number[]): void {
    const before = placesBy(fromPlan.addresses, ({ key }) => key);
    plan.addresses.forEach(({ key }, a) => (this.sent[a] = from.sent[before(key, a)] ?? NOTHING));
    places.forEach((output, was) => {
      if (output < 0) return;
      this.selected.carry(output, from.selected, was);
      this.used[output] = from.used[was]!;
    });
  }

  /** As if an address had never been sent to, and no parameter been selected. */
  forget(address: number): void {
    this.sent[address] = NOTHING;
    this.selected.forget();
  }

  /**
   * The pressure, of 7 bits, that what sounds under a note struck last does not have yet, and is taken to have from now on; else
   * `HELD` or `WAITS`. Another note is another value, even where the number is the same.
   */
  newPressure(mapping: PlannedMapping, struck: number, exact: number, still: boolean): number {
    const limited = exact < 0 ? 0 : exact > 127 ? 127 : exact;
    const value = Math.round(limited);
    const sent = this.sent[mapping.address]!;
    if (sent === struck * 128 + value) return HELD;
    const away = Math.abs(limited - (sent - struck * 128));
    if (sent >= struck * 128 && sent < struck * 128 + 128 && exact !== mapping.outLo && exact !== mapping.outHi && away < (still ? STILL_STEPS : MOVING_STEPS)) return away > STILL_STEPS ? WAITS : HELD;
    this.sent[mapping.address] = struck * 128 + value;
    return value;
  }

  /** The pressure of one note. */
  pressure(mapping: PlannedMapping, m: number, note: number, value: number): void {
    this.three(STATUS.polyPressure | (channelOf(mapping.rig.message) - 1), note, value);
    this.flush(mapping.output, m, KEEP);
  }

  note(output: number, by: number, on: boolean, channel: number, note: number, velocity: number): void {
    this.three((on ? STATUS.noteOn : STATUS.noteOff) | (channel - 1), note, velocity);
    this.flush(output, by, KEEP);
  }

  /** A press of a message that happens at once. */
  press(mapping: PlannedMapping, m: number): void {
    this.write(mapping.rig.message, mapping.outHi, mapping.output, NOTHING);
    this.flush(mapping.output, m, KEEP);
  }

  relative(mapping: PlannedMapping, m: number, steps: number): void {
    this.write(mapping.rig.message, steps, mapping.output, NOTHING);
    this.flush(mapping.output, m, KEEP);
  }

  private write(message: MessageSpec, value: number, output: number, before: number): void {
    kindOf(message).write(message, value, this, output, before);
  }

  clock(output: number): void {
    this.put(STATUS.clock);
    this.flush(output, BY_CLOCK, KEEP);
  }

  /** Any whole message as it is, for panic, scenes and thru. */
  raw(output: number, bytes: ArrayLike<number>, by: number): void {
    for (let i = 0; i < bytes.length; i++) this.put(bytes[i]!);
    this.flush(output, by, KEEP);
  }

  /** Nearly all that leaves of voices: one message of two or three bytes, written without looking at it again. @param data2 less than 0 for none */
  voice(output: number, by: number, status: number, data1: number, data2: number, address: number): void {
    const { bytes } = this;
    bytes[0] = status;
    bytes[1] = data1;
    if (data2 >= 0) bytes[2] = data2;
    this.used[output]! |= 1 << (status & 0x0f);
    if ((status & 0xf0) === STATUS.controlChange && movesSelection(data1)) this.selected.heard(output, status & 0x0f, data1, data2);
    this.sink.midi(output, by, bytes, data2 >= 0 ? 3 : 2, address);
  }

  /** What was put down for a voice leaves. */
  sendVoice(output: number, by: number, address: number): void {
    this.flush(output, by, address);
  }

  /** A message of voices as OSC. */
  osc(output: number, by: number, path: string, args: readonly OscSent[], address: number, voice?: 'begins' | 'ends'): void {
    this.sink.osc(output, by, path, args, address, voice);
  }

  /** Whether a receiver may not have this parameter selected; a slow output may have left out what selected it. */
  mustSelect(output: number, channel: number, registered: boolean, parameter: number): boolean {
    return this.slowOutput[output] === true || !this.selected.holds(output, channel, registered, parameter);
  }

  three(status: number, data1: number, data2: number): void {
    this.put(status);
    this.put(data1);
    this.put(data2);
  }

  put(byte: number): void {
    if (this.length === this.bytes.length) {
      const larger = new Uint8Array(this.length * 2);
      larger.set(this.bytes);
      this.bytes = larger;
    }
    this.bytes[this.length++] = byte;
  }

  private flush(output: number, m: number, address: number): void {
    const { length, bytes } = this;
    this.length = 0;
    if (length === 0) return;
    const status = bytes[0]!;
    if (status < STATUS.sysEx) this.used[output]! |= 1 << (status & 0x0f);
    for (let i = 0; i + 2 < length && (bytes[i]! & 0xf0) === STATUS.controlChange; i += 3) {
      const controller = bytes[i + 1]!;
      if (movesSelection(controller)) this.selected.heard(output, bytes[i]! & 0x0f, controller, bytes[i + 2]!);
    }
    this.sink.midi(output, m, bytes, length, address);
    if (length === 3 && (status & 0xf0) === STATUS.controlChange && endsAllNotes(bytes[1]!)) this.onNotesEnd(output, (status & 0x0f) + 1);
  }
}
