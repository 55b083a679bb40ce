import { NULL_HALF, RESET_CONTROLLERS, SELECT } from '../midi/controllers';

const NONE = -1;

/**
 * Which parameter data entry is for, per output and channel, from the bytes that left, whoever sent them. Half a selection
 * after the other kind selects nothing, nor does a reset of all controllers (MMA RP-015).
 */
export class ParameterSelection {
  /** By output and channel: 1 for registered, 0 for others, NONE before any; and the two halves. */
  private readonly registered: Int8Array;
  private readonly msb: Int16Array;
  private readonly lsb: Int16Array;

  constructor(outputs: number) {
    this.registered = new Int8Array(outputs * 16).fill(NONE);
    this.msb = new Int16Array(outputs * 16).fill(NONE);
    this.lsb = new Int16Array(outputs * 16).fill(NONE);
  }

  /** A controller that moves the selection left; `channel` from 0. */
  heard(output: number, channel: number, controller: number, value: number): void {
    const at = output * 16 + channel;
    if (controller === RESET_CONTROLLERS) {
      this.registered[at] = NONE;
      return;
    }
    const registered = Number(controller >= SELECT.rpnLsb);
    if (this.registered[at] !== registered) {
      this.registered[at] = registered;
      this.msb[at] = this.lsb[at] = NONE;
    }
    if (controller & 1) this.msb[at] = value;
    else this.lsb[at] = value;
  }

  holds(output: number, channel: number, registered: boolean, parameter: number): boolean {
    const at = output * 16 + channel;
    const [msb, lsb] = [this.msb[at]!, this.lsb[at]!];
    if (msb === NONE || lsb === NONE || (msb === NULL_HALF && lsb === NULL_HALF)) return false;
    return this.registered[at] === Number(registered) && ((msb << 7) | lsb) === parameter;
  }

  forget(): void {
    this.registered.fill(NONE);
  }

  /** Takes over what an output of another plan was sent. */
  carry(output: number, from: ParameterSelection, was: number): void {
    for (const field of ['registered', 'msb', 'lsb'] as const) this[field].set(from[field].subarray(was * 16, (was + 1) * 16), output * 16);
  }
}
