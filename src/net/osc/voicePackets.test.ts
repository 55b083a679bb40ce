import { expect, it } from 'vitest';
import { decodeOsc, encodeOsc } from './codec';
import { heldByPacket } from './voicePackets';

const packet = (path: string, whose: number, ...values: number[]) => encodeOsc(path, [{ type: 'i', value: whose }, ...values.map((value) => ({ type: 'f' as const, value }))]);
const read = (path: string, whose: number, ...values: number[]) => {
  const found = heldByPacket(packet(path, whose, ...values));
  return found && { held: found.held, end: found.end && decodeOsc(found.end).map(({ address, arguments: args }) => [address, ...args].join(' ')) };
};

it('a voice is held from its beginning to its end, a pedal while it is down, and nothing else is', () => {
  expect(read('/hull/on', 3, 60.5, 0.5)).toEqual({ held: '/hull/off 3', end: ['/hull/off 3 0'] });
  expect(read('/hull/off', 3, 0.25)).toEqual({ held: '/hull/off 3', end: null });
  expect(read('/hull/pedal', 64, 1)).toEqual({ held: '/hull/pedal 64', end: ['/hull/pedal 64 0'] });
  expect(read('/hull/pedal', 64, 0)).toEqual({ held: '/hull/pedal 64', end: null });
  expect(read('/hull/pitch', 3, 61)).toBeNull();
});
it('what cannot be read holds nothing', () => {
  expect(heldByPacket(Uint8Array.of(0x2f, 1, 2))).toBeNull();
  expect(heldByPacket(new Uint8Array(0))).toBeNull();
});
