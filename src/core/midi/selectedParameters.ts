import { isSelector, NULL_HALF, SELECT } from './controllers';

export interface SelectedParameter {
  registered: boolean;
  /** 14 bits. */
  number: number;
}

const UNKNOWN = -1;

/** Which parameter data entry is for, by channel: 99/98 or 101/100 select it (MIDI 1.0, control change messages). */
export class SelectedParameters {
  private readonly halves = new Map<number, { msb: number; lsb: number; registered: boolean }>();

  /** Takes note of a controller; false where it selects nothing. Half a selection after the other kind selects nothing yet. */
  hear(channel: number, controller: number, value: number): boolean {
    if (!isSelector(controller)) return false;
    const registered = controller === SELECT.rpnMsb || controller === SELECT.rpnLsb;
    const known = this.halves.get(channel);
    const { msb, lsb } = known?.registered === registered ? known : { msb: UNKNOWN, lsb: UNKNOWN };
    this.halves.set(channel, controller === SELECT.rpnMsb || controller === SELECT.nrpnMsb ? { msb: value, lsb, registered } : { msb, lsb: value, registered });
    return true;
  }

  /** Null where none is, as after its null. */
  of(channel: number): SelectedParameter | null {
    const known = this.halves.get(channel);
    if (!known || known.msb < 0 || known.lsb < 0 || (known.msb === NULL_HALF && known.lsb === NULL_HALF)) return null;
    return { registered: known.registered, number: (known.msb << 7) | known.lsb };
  }

  forget(channel: number): void {
    this.halves.delete(channel);
  }
}
