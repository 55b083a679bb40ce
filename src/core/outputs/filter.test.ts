import { describe, expect, it } from 'vitest';
import { isConfiguration, passesFilter, type OutputFilter } from './filter';

const bytes = (hex: string) => Uint8Array.from(hex.split(' '), (byte) => parseInt(byte, 16));
const passed = (filter: OutputFilter, ...messages: string[]) => messages.filter((hex) => passesFilter(filter, bytes(hex)));
const ALL = ['90 3C 40', 'A0 3C 40', 'B0 07 40', 'B4 01 40', 'C0 05', 'D0 11', 'E0 00 40', 'F0 01 F7', 'F8', 'FA', 'F2 00 00', 'FE'];

describe('the filter of an output', () => {
  it('lets everything through where it says nothing', () => expect(passed({}, ...ALL)).toEqual(ALL));
  it('lets some channels through, and what has none', () => {
    expect(passed({ channels: [5] }, ...ALL)).toEqual(['B4 01 40', 'F0 01 F7', 'F8', 'FA', 'F2 00 00', 'FE']);
  });
  it('holds kinds back', () => {
    expect(passed({ without: ['controllers', 'clock', 'sysEx'] }, ...ALL)).toEqual(['90 3C 40', 'A0 3C 40', 'C0 05', 'D0 11', 'E0 00 40', 'FE']);
    expect(passed({ without: ['notes', 'pressure', 'bend', 'programs'] }, ...ALL)).toEqual(['B0 07 40', 'B4 01 40', 'F0 01 F7', 'F8', 'FA', 'F2 00 00', 'FE']);
  });
  it('holds controllers back by their number', () => expect(passed({ withoutControllers: [7] }, 'B0 07 40', 'B0 08 40', '90 07 40')).toEqual(['B0 08 40', '90 07 40']));
});

it('what sets a receiver up is told from what plays it', () => {
  const setUp = ['F0 7E F7', 'C0 05', 'B0 00 01', 'B0 20 01', 'B0 65 00 B0 64 00 B0 06 02', 'B0 63 00', 'B0 26 00'];
  expect(setUp.filter((hex) => isConfiguration(bytes(hex)))).toEqual(setUp);
  expect(['90 3C 40', 'B0 01 40', 'B0 40 7F', 'E0 00 40', 'F8', 'F0 7F 7F 0A 01 02 3C 07 40 F7'].filter((hex) => isConfiguration(bytes(hex)))).toEqual([]);
});
