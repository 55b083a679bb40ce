import { expect, it } from 'vitest';
import { voicesOf, type HeardOfVoice } from './voices';
import { Zones } from './zone';

const note = (channel: number, number: number, value = 127): HeardOfVoice => ({ kind: 'note', channel, number, value });
const bend = (channel: number, value: number): HeardOfVoice => ({ kind: 'pitchBend', channel, number: 0, value });
const said = (heard: HeardOfVoice[], receiver: Parameters<typeof voicesOf>[1]) => voicesOf(heard, receiver).map(({ nearest, cents }) => `${nearest} ${cents}`);

// By hand: 4096 of 8192 down is half the range; 1024 of 8191 up is an eighth: of 2 semitones 25 cents.
it('says where each voice is, with cents from the nearest note', () => {
  expect(said([note(1, 69), bend(1, 8192 - 4096)], { bendRangeSemitones: 2 })).toEqual(['A♭4 0']);
  expect(said([note(1, 60), bend(1, 8192 + 1024)], { bendRangeSemitones: 2 })).toEqual(['C4 25']);
  expect(said([note(1, 60), bend(1, 16383)], { bendRangeSemitones: 48 })).toEqual(['C8 0']);
  expect(said([note(1, 60, 0), note(2, 64)], { bendRangeSemitones: 2 })).toEqual(['E4 0']);
});

it('in a zone each member bends by itself, and all of them with their manager', () => {
  const receiver = { bendRangeSemitones: 48, layout: { kind: 'zone', zone: 'lower', members: 2 } } as const;
  expect(said([note(2, 60), note(3, 64), note(4, 67), bend(1, 16383), bend(2, 8192 - 8192 / 48)], receiver)).toEqual(['C♯4 0', 'F♯4 0', 'G4 0'].sort((a, b) => (a < b ? -1 : 1)));
});

it('a zone is configured by its message, takes channels from the other, and is switched off', () => {
  const zones = new Zones(undefined);
  zones.configured(1, 10);
  zones.configured(16, 8);
  expect(zones.membersOf(16)).toEqual([15, 14, 13, 12, 11, 10, 9, 8]);
  expect(zones.membersOf(1)).toEqual([2, 3, 4, 5, 6, 7]);
  expect([zones.managerOf(7), zones.managerOf(8), zones.managerOf(1)]).toEqual([1, 16, null]);
  zones.configured(16, 0);
  expect(zones.managerOf(8)).toBeNull();
  zones.configured(5, 3);
  expect(zones.membersOf(5)).toEqual([]);
});
