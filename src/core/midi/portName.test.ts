import { expect, it } from 'vitest';
import { identify, portReport, shortName } from './portName';

it.each([
  ['linux', 'Deck box:Deck box MIDI 1 20:0', 'Deck box:Deck box MIDI 1'],
  ['linux', 'Horn in:in', 'Horn in:in'],
  ['win32', 'Deck box 3', 'Deck box'],
  ['darwin', 'Deck box 3', 'Deck box 3'],
  ['web', 'Deck box 20:0', 'Deck box 20:0'],
  ['linux', '', 'MIDI port'],
])('on %s "%s" is known again as "%s"', (platform, name, report) => expect(portReport(name, platform)).toBe(report));

it('two that say the same are told apart by their place', () => {
  expect(identify(['Twin 20:0', 'Other 21:0', 'Twin 24:0'], 'linux')).toEqual([{ report: 'Twin', slot: 1 }, { report: 'Other', slot: 1 }, { report: 'Twin', slot: 2 }]);
});

it.each([
  ['Deck box:Deck box MIDI 1', 'Deck box MIDI 1'],
  ['Horn in:in', 'Horn in'],
  ['Deck box', 'Deck box'],
  [':odd', ':odd'],
  ['odd: ', 'odd: '],
])('people read "%s" as "%s"', (report, name) => expect(shortName(report)).toBe(name));
