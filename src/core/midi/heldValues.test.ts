import { describe, expect, it } from 'vitest';
import { hexOf } from './describe';
import { HeldValues } from './heldValues';

const after = (...sent: string[]) => {
  const held = new HeldValues();
  for (const hex of sent) held.sent(Uint8Array.from(hex.split(' '), (byte) => parseInt(byte, 16)));
  return held.messages().map(hexOf);
};

describe('what a receiver holds', () => {
  it('is the newest value of each controller, bend and pressure of each channel, and no note', () => {
    expect(after('B0 07 10', 'B0 07 20', 'B3 07 30', 'E0 00 60', 'D2 11', '90 3C 40', 'A0 3C 40')).toEqual(['B0 07 20', 'E0 00 60', 'D2 11', 'B3 07 30']);
  });
  it('comes to rest by the centre of bends and no pressure, where it is away from there', () => {
    const held = new HeldValues();
    for (const bytes of [[0xe0, 0, 0x60], [0xe1, 0, 0x40], [0xef, 0x7f, 0x7f], [0xe2, 0, 0x10], [0xe2, 0, 0x40], [0xd0, 5], [0xd1, 0], [0xb0, 7, 9]]) held.sent(Uint8Array.from(bytes));
    expect(held.backToRest().map(hexOf)).toEqual(['E0 00 40', 'D0 00', 'EF 00 40']);
    expect(new HeldValues().backToRest()).toEqual([]);
  });
  it('is told with the bank before its program, and a bank that was chosen later by itself', () => {
    expect(after('B0 00 01', 'B0 20 02', 'C0 05')).toEqual(['B0 00 01', 'B0 20 02', 'C0 05']);
    expect(after('B0 00 01', 'C0 05', 'B0 00 03')).toEqual(['B0 00 01', 'C0 05', 'B0 00 03']);
  });
  it('has parameters whole, and selects last what was selected last, for what comes next may count on it', () => {
    expect(after('B0 65 00 B0 64 00 B0 06 30 B0 26 00')).toEqual(['B0 65 00', 'B0 64 00', 'B0 06 30', 'B0 26 00', 'B0 65 00', 'B0 64 00']);
    expect(after('B1 63 01', 'B1 62 02', 'B1 06 03', 'B1 63 01', 'B1 62 03', 'B1 06 04')).toEqual(['B1 63 01', 'B1 62 02', 'B1 06 03', 'B1 63 01', 'B1 62 03', 'B1 06 04', 'B1 63 01', 'B1 62 03']);
    expect(after('B0 65 00 B0 64 00 B0 06 30', 'B0 65 7F B0 64 7F').slice(-2)).toEqual(['B0 65 7F', 'B0 64 7F']);
  });
  it('takes no data entry for anything while no parameter is selected', () => {
    // Half a selection after the other kind selects nothing (engine.md, Settled): neither has data entry after it.
    expect(after('B0 63 01', 'B0 62 02', 'B0 06 03', 'B0 65 00', 'B0 06 30')).toEqual(['B0 63 01', 'B0 62 02', 'B0 06 03', 'B0 65 7F', 'B0 64 7F']);
    expect(after('B0 06 30', 'B0 65 7F', 'B0 64 7F', 'B0 06 31')).toEqual(['B0 65 7F', 'B0 64 7F']);
  });
  it('keeps no channel mode messages: all notes off is done, not held', () => {
    expect(after('B0 7B 00', 'B0 78 00', 'B0 79 00')).toEqual([]);
  });
  it('is not what a reset of all controllers took back: only what that leaves alone (MMA RP-015), and what came after it', () => {
    const moved = ['B0 01 50', 'B0 07 60', 'B0 0A 20', 'B0 0B 40', 'B0 40 7F', 'B0 4A 30', 'B0 5B 11', 'E0 00 60', 'D0 30', 'B0 65 00 B0 64 00 B0 06 0C', 'B1 01 22'];
    expect(after(...moved, 'B0 79 00', 'B0 40 7F')).toEqual(['B0 65 00', 'B0 64 00', 'B0 06 0C', 'B0 65 7F', 'B0 64 7F', 'B0 07 60', 'B0 0A 20', 'B0 40 7F', 'B0 4A 30', 'B0 5B 11', 'B1 01 22']);
  });
  it('has both halves of a 14-bit controller, and nothing of SysEx or clock', () => {
    expect(after('B0 01 40 B0 21 05', 'F0 7E 7F 06 01 F7', 'F8')).toEqual(['B0 01 40', 'B0 21 05']);
  });
});
