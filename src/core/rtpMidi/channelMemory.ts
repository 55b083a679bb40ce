import { endsAllNotes, FIRST_MODE, isDataEntry, isSelector, NULL_HALF, RESET_CONTROLLERS, SELECT, staysAtReset } from '../midi/controllers';
import { STATUS } from '../midi/message';

const NUMBERS = 128;
export const UNKNOWN = -1;
/** RFC 6295 counts modulo 64. */
const COUNTED = 64;

/** What the items of a channel are, as numbers: a kind, and which of that kind. */
export const ITEM = { program: 0, bend: 1, pressure: 2, selected: 3, controller: 0x1000, note: 0x2000, polyPressure: 0x3000, parameter: 0x10000 } as const;

export interface ParameterState {
  registered: boolean;
  number: number;
  msb: number | null;
  lsb: number | null;
  steps: number | null;
}

/** Where one channel of a stream stands. Both ends keep one: the sender to write journals, the receiver to compare with them. */
export class ChannelMemory {
  program = UNKNOWN;
  /** The bank that the program was called from; UNKNOWN where none was said. */
  readonly bank: [msb: number, lsb: number] = [UNKNOWN, UNKNOWN];
  bend = UNKNOWN;
  pressure = UNKNOWN;
  /** Channel mode messages count how often they came; everything else holds its value. */
  readonly controllers = new Int16Array(NUMBERS).fill(UNKNOWN);
  readonly polyPressures = new Int16Array(NUMBERS).fill(UNKNOWN);
  /** The velocity of those that sound; 0: it does not. */
  readonly notes = new Uint8Array(NUMBERS);
  readonly parameters = new Map<number, ParameterState>();
  /** The parameter that data entry is for, by its item; UNKNOWN for none. */
  selected: number = UNKNOWN;
  /** The two halves of the selection, as far as they were said. */
  private halves = { registered: false, msb: UNKNOWN, lsb: UNKNOWN };

  constructor(
    /** Told which item a command changed. */
    private readonly changed: (item: number) => void = () => undefined,
    /** Told which item is not known any more: a reset came over it. */
    private readonly forgotten: (item: number) => void = () => undefined,
  ) {}

  /** Takes one command of this channel in. */
  take(command: Uint8Array): void {
    const [status, data1, data2] = command as unknown as [number, number, number];
    switch (status & 0xf0) {
      case STATUS.noteOff:
        return this.note(data1, 0);
      case STATUS.noteOn:
        return this.note(data1, data2);
      case STATUS.polyPressure:
        this.polyPressures[data1] = data2;
        return this.changed(ITEM.polyPressure + data1);
      case STATUS.controlChange:
        return this.controlChange(data1, data2);
      case STATUS.programChange:
        this.program = data1;
        this.bank[0] = this.controllers[0]!;
        this.bank[1] = this.controllers[32]!;
        // The program says its bank; only what selects another one since counts by itself.
        this.forgotten(ITEM.controller);
        this.forgotten(ITEM.controller + 32);
        return this.changed(ITEM.program);
      case STATUS.channelPressure:
        this.pressure = data1;
        return this.changed(ITEM.pressure);
      case STATUS.pitchBend:
        this.bend = data1 | (data2 << 7);
        return this.changed(ITEM.bend);
    }
  }

  private note(note: number, velocity: number): void {
    this.notes[note] = velocity;
    this.changed(ITEM.note + note);
  }

  private controlChange(controller: number, value: number): void {
    if (controller >= FIRST_MODE) return this.mode(controller);
    if (isSelector(controller)) return this.select(controller, value);
    const parameter = isDataEntry(controller) ? this.parameters.get(this.selected) : undefined;
    if (parameter) return this.enter(parameter, controller, value);
    this.controllers[controller] = value;
    this.changed(ITEM.controller + controller);
  }

  private mode(controller: number): void {
    this.controllers[controller] = (this.controllers[controller] === UNKNOWN ? 1 : this.controllers[controller]! + 1) % COUNTED;
    if (controller === RESET_CONTROLLERS) this.reset();
    else if (endsAllNotes(controller)) {
      this.notes.fill(0);
      for (let note = 0; note < NUMBERS; note++) this.forgotten(ITEM.note + note);
    }
    this.changed(ITEM.controller + controller);
  }

  private reset(): void {
    for (let controller = 0; controller < FIRST_MODE; controller++) {
      if (staysAtReset(controller)) continue;
      this.controllers[controller] = UNKNOWN;
      this.forgotten(ITEM.controller + controller);
    }
    this.bend = this.pressure = this.selected = UNKNOWN;
    this.halves.msb = this.halves.lsb = UNKNOWN;
    this.polyPressures.fill(UNKNOWN);
    for (const item of [ITEM.bend, ITEM.pressure, ITEM.selected]) this.forgotten(item);
    for (let note = 0; note < NUMBERS; note++) this.forgotten(ITEM.polyPressure + note);
  }

  private select(controller: number, value: number): void {
    const registered = controller >= SELECT.rpnLsb;
    if (this.halves.registered !== registered) this.halves = { registered, msb: UNKNOWN, lsb: UNKNOWN };
    this.halves[controller === SELECT.rpnMsb || controller === SELECT.nrpnMsb ? 'msb' : 'lsb'] = value;
    const { msb, lsb } = this.halves;
    const isNone = msb === UNKNOWN || lsb === UNKNOWN || (msb === NULL_HALF && lsb === NULL_HALF);
    const number = (msb << 7) | lsb;
    this.selected = isNone ? UNKNOWN : parameterItem(registered, number);
    if (!isNone && !this.parameters.has(this.selected)) this.parameters.set(this.selected, { registered, number, msb: null, lsb: null, steps: null });
    this.changed(ITEM.selected);
  }

  private enter(parameter: ParameterState, controller: number, value: number): void {
    if (controller === SELECT.dataMsb) Object.assign(parameter, { msb: value, lsb: null, steps: null });
    else if (controller === SELECT.dataLsb) Object.assign(parameter, { lsb: value, steps: null });
    else parameter.steps = (parameter.steps ?? 0) + (controller === SELECT.up ? 1 : -1);
    this.changed(this.selected);
  }
}

export const parameterItem = (registered: boolean, number: number): number => ITEM.parameter + (registered ? 0 : 0x4000) + number;
