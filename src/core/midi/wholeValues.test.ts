import { expect, it } from 'vitest';
import { hexOf } from './describe';
import { decode } from './decode';
import { WholeValues } from './wholeValues';

/** What a receiver says, message by message, as address, value and the bytes that set it so. */
function said(...messages: string[]): string[][] {
  const values = new WholeValues();
  return messages.map((hex) => values.of(decode(Uint8Array.from(hex.split(' '), (byte) => parseInt(byte, 16)))!).map(({ address, value, bytes }) => `${address} = ${value ?? 'unknown'}${bytes.length > 0 ? ` by ${hexOf(bytes)}` : ''}`));
}

// Bytes by hand from the MIDI 1.0 Detailed Specification: control change, table III, and its sections on 14 bits and parameters.

it('a controller below 32 is whole, and the upper half of one of 14 bits whose lower half is 0 until it comes', () => {
  expect(said('B2 14 40', 'B2 34 05', 'B2 14 41')).toEqual([
    ['cc 3 20 = 64 by B2 14 40', 'cc14 3 20 = 8192 by B2 14 40 B2 34 00'],
    ['cc 3 52 = 5 by B2 34 05', 'cc14 3 20 = 8197 by B2 14 40 B2 34 05'],
    ['cc 3 20 = 65 by B2 14 41', 'cc14 3 20 = 8320 by B2 14 41 B2 34 00'],
  ]);
});

it('a lower half before any upper one is a controller of its own, and half of what nobody knows', () => {
  expect(said('B0 34 05', 'B0 50 07')).toEqual([['cc 1 52 = 5 by B0 34 05', 'cc14 1 20 = unknown'], ['cc 1 80 = 7 by B0 50 07']]);
});

it('data entry is for the parameter that is selected, of 7 bits or of 14; after the null it is for none', () => {
  expect(said('B0 63 02', 'B0 62 03', 'B0 06 10', 'B0 26 01', 'B0 63 7F', 'B0 62 7F', 'B0 06 10')).toEqual([
    [],
    [],
    ['nrpn 1 259 of 7 = 16 by B0 63 02 B0 62 03 B0 06 10', 'nrpn 1 259 of 14 = 2048 by B0 63 02 B0 62 03 B0 06 10 B0 26 00'],
    ['nrpn 1 259 of 7 = unknown', 'nrpn 1 259 of 14 = 2049 by B0 63 02 B0 62 03 B0 06 10 B0 26 01'],
    [],
    [],
    ['cc 1 6 = 16 by B0 06 10', 'cc14 1 6 = 2048 by B0 06 10 B0 26 00'],
  ]);
});

it('half a selection of the other kind selects nothing, nor does one that a reset took back', () => {
  const data = ['cc 1 6 = 1 by B0 06 01', 'cc14 1 6 = 128 by B0 06 01 B0 26 00'];
  expect(said('B0 65 00', 'B0 64 00', 'B0 63 01', 'B0 06 01').at(-1)).toEqual(data);
  expect(said('B0 65 00', 'B0 64 00', 'B0 79 00', 'B0 06 01').at(-1)).toEqual(data);
  expect(said('B0 65 00', 'B0 64 00', 'B0 06 01').at(-1)![0]).toBe('rpn 1 0 of 7 = 1 by B0 65 00 B0 64 00 B0 06 01');
});

it('bends and pressure are whole as they come, notes are none', () => {
  expect(said('E1 01 40', 'D1 20', '91 3C 40')).toEqual([['bend 2 = 8193 by E1 01 40'], ['pressure 2 = 32 by D1 20'], []]);
});
