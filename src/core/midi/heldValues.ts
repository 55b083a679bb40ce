import { FIRST_MODE, isDataEntry, RESET_CONTROLLERS, SELECT, staysAtReset } from './controllers';
import { splitMessages } from './decode';
import { BEND_CENTRE, STATUS } from './message';
import { NONE_SELECTED, SelectedParameters, type SelectedParameter } from './selectedParameters';

const CHANNELS = 16;
const NUMBERS = 128;
const UNKNOWN = 0xffff;
const BANK = [0, 32] as const;

interface Parameter extends SelectedParameter {
  msb: number;
  lsb: number | null;
}

/**
 * What a receiver holds of what was sent there, so that one that was away can be told again: banks and programs, parameters,
 * controllers, bends and pressure of each channel. Notes are not among it.
 */
export class HeldValues {
  private readonly controllers = new Uint16Array(CHANNELS * NUMBERS).fill(UNKNOWN);
  private readonly programs = new Uint16Array(CHANNELS).fill(UNKNOWN);
  /** The bank that the program was called from, by channel: the two controllers as they stood then. */
  private readonly banks: [msb: number, lsb: number][] = Array.from({ length: CHANNELS }, () => [UNKNOWN, UNKNOWN]);
  private readonly bends = new Uint16Array(CHANNELS).fill(UNKNOWN);
  private readonly pressures = new Uint16Array(CHANNELS).fill(UNKNOWN);
  private readonly parameters = Array.from({ length: CHANNELS }, () => new Map<string, Parameter>());
  private selected = new SelectedParameters();

  /** The value of a controller, null where none was sent. @param channel 1 to 16 */
  controller(channel: number, controller: number): number | null {
    const value = this.controllers[(channel - 1) * NUMBERS + controller]!;
    return value === UNKNOWN ? null : value;
  }

  /** Takes note of whole messages that were sent. */
  sent(bytes: Uint8Array): void {
    if (bytes.length <= 3) this.one(bytes);
    else if (bytes[0]! < STATUS.sysEx) for (const message of splitMessages(bytes)) this.one(message);
  }

  /** Its receiver says itself what it holds: what is selected there for what comes next is as it was. */
  stands(bytes: Uint8Array): void {
    const selected = this.selected.copy();
    this.sent(bytes);
    this.selected = selected;
  }

  /** The messages that say all of it again: programs after their banks, parameters, controllers, bends, pressure. */
  messages(): Uint8Array[] {
    const said: Uint8Array[] = [];
    for (let channel = 0; channel < CHANNELS; channel++) {
      const change = (controller: number, value: number) => said.push(Uint8Array.of(STATUS.controlChange | channel, controller, value));
      const select = ({ registered, number }: SelectedParameter) => {
        change(registered ? SELECT.rpnMsb : SELECT.nrpnMsb, number >> 7);
        change(registered ? SELECT.rpnLsb : SELECT.nrpnLsb, number & 0x7f);
      };
      if (this.programs[channel] !== UNKNOWN) {
        BANK.forEach((controller, i) => this.banks[channel]![i] !== UNKNOWN && change(controller, this.banks[channel]![i]!));
        said.push(Uint8Array.of(STATUS.programChange | channel, this.programs[channel]!));
      }
      for (const { msb, lsb, registered, number } of this.parameters[channel]!.values()) {
        select({ registered, number });
        change(SELECT.dataMsb, msb);
        if (lsb !== null) change(SELECT.dataLsb, lsb);
      }
      // What comes next may count on what was selected last.
      const last = this.selected.said(channel) ?? (this.parameters[channel]!.size > 0 ? NONE_SELECTED : null);
      if (last) select(last);
      for (let controller = 0; controller < FIRST_MODE; controller++) {
        const value = this.controllers[channel * NUMBERS + controller]!;
        const saidWithProgram = this.programs[channel] !== UNKNOWN && BANK.some((bank, i) => bank === controller && this.banks[channel]![i] === value);
        if (value !== UNKNOWN && !saidWithProgram) change(controller, value);
      }
      const bend = this.bends[channel]!;
      if (bend !== UNKNOWN) said.push(Uint8Array.of(STATUS.pitchBend | channel, bend & 0x7f, bend >> 7));
      if (this.pressures[channel] !== UNKNOWN) said.push(Uint8Array.of(STATUS.channelPressure | channel, this.pressures[channel]!));
    }
    return said;
  }

  /** The messages that bring bends and pressure of channels to rest, where they are away from it. */
  backToRest(): Uint8Array[] {
    const said: Uint8Array[] = [];
    for (let channel = 0; channel < CHANNELS; channel++) {
      const [bend, pressure] = [this.bends[channel]!, this.pressures[channel]!];
      if (bend !== UNKNOWN && bend !== BEND_CENTRE) said.push(Uint8Array.of(STATUS.pitchBend | channel, BEND_CENTRE & 0x7f, BEND_CENTRE >> 7));
      if (pressure !== UNKNOWN && pressure > 0) said.push(Uint8Array.of(STATUS.channelPressure | channel, 0));
    }
    return said;
  }

  private one(bytes: Uint8Array): void {
    const channel = bytes[0]! & 0x0f;
    switch (bytes[0]! & 0xf0) {
      case STATUS.controlChange:
        return this.controlChange(channel, bytes[1]!, bytes[2]!);
      case STATUS.programChange:
        this.programs[channel] = bytes[1]!;
        this.banks[channel] = [this.controllers[channel * NUMBERS + BANK[0]]!, this.controllers[channel * NUMBERS + BANK[1]]!];
        return;
      case STATUS.pitchBend:
        this.bends[channel] = bytes[1]! | (bytes[2]! << 7);
        return;
      case STATUS.channelPressure:
        this.pressures[channel] = bytes[1]!;
    }
  }

  private controlChange(channel: number, controller: number, value: number): void {
    if (this.selected.hear(channel, controller, value)) return;
    if (isDataEntry(controller)) return this.parameter(channel, controller, value);
    if (controller < FIRST_MODE) this.controllers[channel * NUMBERS + controller] = value;
    else if (controller === RESET_CONTROLLERS) this.reset(channel);
  }

  private reset(channel: number): void {
    for (let controller = 0; controller < FIRST_MODE; controller++) if (!staysAtReset(controller)) this.controllers[channel * NUMBERS + controller] = UNKNOWN;
    this.bends[channel] = this.pressures[channel] = UNKNOWN;
    this.selected.forget(channel);
  }

  private parameter(channel: number, controller: number, value: number): void {
    const before = this.selected.of(channel);
    if (!before) return;
    const key = `${before.registered} ${before.number}`;
    const of = this.parameters[channel]!;
    const known = of.get(key);
    // A coarse value by itself begins anew (MIDI 1.0: the fine one counts from zero then); steps are told as where they led is unknown.
    if (controller === SELECT.dataMsb) of.set(key, { ...before, msb: value, lsb: null });
    else if (controller === SELECT.dataLsb && known) known.lsb = value;
    else of.delete(key);
  }
}
