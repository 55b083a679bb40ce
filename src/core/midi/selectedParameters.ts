import { isSelector, NULL_HALF, SELECT } from './controllers';

export interface SelectedParameter {
  registered: boolean;
  /** 14 bits. */
  number: number;
}

const UNKNOWN = -1;
const NO_PARAMETER = (NULL_HALF << 7) | NULL_HALF;
/** What selects none. */
export const NONE_SELECTED: SelectedParameter = { registered: true, number: NO_PARAMETER };

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

  /** Null where none is, as after the parameter that stands for none. */
  of(channel: number): SelectedParameter | null {
    const said = this.said(channel);
    return said?.number === NO_PARAMETER ? null : said;
  }

  /** What was selected last, the parameter that stands for none included; null where nothing whole was. */
  said(channel: number): SelectedParameter | null {
    const known = this.halves.get(channel);
    if (!known || known.msb < 0 || known.lsb < 0) return null;
    return { registered: known.registered, number: (known.msb << 7) | known.lsb };
  }

  /** The same, to go on by itself. */
  copy(): SelectedParameters {
    const copy = new SelectedParameters();
    for (const [channel, halves] of this.halves) copy.halves.set(channel, halves);
    return copy;
  }

  forget(channel: number): void {
    this.halves.delete(channel);
  }
}
