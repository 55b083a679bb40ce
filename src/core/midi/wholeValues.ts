import { RESET_CONTROLLERS, SELECT } from './controllers';
import { encode } from './encode';
import { LSB } from './halves';
import type { MidiMessage } from './message';
import { SelectedParameters } from './selectedParameters';

/** What a message says that a place of a receiver holds. */
export interface WholeValue {
  address: string;
  /** In the numbers of the wire; null for a lower half that says nothing by itself. */
  value: number | null;
  /** All that sets it so, a parameter selected before. */
  bytes: Uint8Array;
}

export const controllerAddress = (channel: number, controller: number): string => `cc ${channel} ${controller}`;
export const fineAddress = (channel: number, controller: number): string => `cc14 ${channel} ${controller}`;
export const parameterAddress = (channel: number, registered: boolean, number: number, bits: 7 | 14): string => `${registered ? 'rpn' : 'nrpn'} ${channel} ${number} of ${bits}`;
export const bendAddress = (channel: number): string => `bend ${channel}`;
export const pressureAddress = (channel: number): string => `pressure ${channel}`;

/**
 * Reads what one sender says as values of 7 or 14 bits, by their addresses. Whether a controller is one of 7 bits or half of one of 14 only
 * its receiver knows, so it is said as both. A coarse half stands for a fine one of 0 until that comes (MIDI 1.0).
 */
export class WholeValues {
  private readonly selected = new SelectedParameters();
  /** Upper halves, by the address that they are of. */
  private readonly upper = new Map<string, number>();

  of(message: MidiMessage): WholeValue[] {
    switch (message.kind) {
      case 'controlChange':
        return this.controller(message.channel, message.controller, message.value);
      case 'pitchBend':
        return [{ address: bendAddress(message.channel), value: message.bend, bytes: encode(message) }];
      case 'channelPressure':
        return [{ address: pressureAddress(message.channel), value: message.pressure, bytes: encode(message) }];
      default:
        return [];
    }
  }

  private controller(channel: number, controller: number, value: number): WholeValue[] {
    if (this.selected.hear(channel, controller, value)) return [];
    if (controller === RESET_CONTROLLERS) this.selected.forget(channel);
    const change = (number: number, to: number) => [...encode({ kind: 'controlChange', channel, controller: number, value: to })];
    const parameter = this.selected.of(channel);
    if (parameter && (controller === SELECT.dataMsb || controller === SELECT.dataLsb)) {
      const { registered, number } = parameter;
      const [msb, lsb] = registered ? [SELECT.rpnMsb, SELECT.rpnLsb] : [SELECT.nrpnMsb, SELECT.nrpnLsb];
      const select = [...change(msb, number >> 7), ...change(lsb, number & 0x7f)];
      const fine = this.half(parameterAddress(channel, registered, number, 14), controller === SELECT.dataMsb, value, (upper, lower) => [...select, ...change(SELECT.dataMsb, upper), ...change(SELECT.dataLsb, lower)]);
      const coarse = parameterAddress(channel, registered, number, 7);
      // One of 7 bits is said in full by its upper half; a lower half that follows is of it, and changes nothing.
      if (controller === SELECT.dataLsb) return [{ address: coarse, value: null, bytes: Uint8Array.of() }, fine];
      return [{ address: coarse, value, bytes: Uint8Array.from([...select, ...change(SELECT.dataMsb, value)]) }, fine];
    }
    const plain: WholeValue = { address: controllerAddress(channel, controller), value, bytes: Uint8Array.from(change(controller, value)) };
    if (controller >= 2 * LSB) return [plain];
    const coarse = controller % LSB;
    return [plain, this.half(fineAddress(channel, coarse), controller < LSB, value, (upper, lower) => [...change(coarse, upper), ...change(coarse + LSB, lower)])];
  }

  private half(address: string, isUpper: boolean, value: number, bytesOf: (upper: number, lower: number) => number[]): WholeValue {
    if (isUpper) this.upper.set(address, value);
    const upper = this.upper.get(address);
    if (upper === undefined) return { address, value: null, bytes: Uint8Array.of() };
    const lower = isUpper ? 0 : value;
    return { address, value: (upper << 7) | lower, bytes: Uint8Array.from(bytesOf(upper, lower)) };
  }
}
