import { describe, expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import type { RigMapping } from '../rig/document';
import { channelAdvice, freeControllers, ledgerOf } from './ledger';
import type { MessageSpec } from '../messages';

const cc = (controller: number, channel = 1): MessageSpec => ({ kind: 'controlChange', channel, controller, range: [0, 127] });
const ledger = (...mappings: Partial<RigMapping>[]) => ledgerOf(testRig(mappings));

describe('ledgerOf', () => {
  it.each<[string, Partial<RigMapping>[], number]>([
    ['two mappings on one address', [{ message: cc(20) }, { message: cc(20) }], 1],
    ['the same with a merge', [{ message: cc(20), merge: 'highest' }, { message: cc(20) }], 0],
    ['the same with merge none', [{ message: cc(20), merge: 'none' }, { message: cc(20) }], 1],
    ['the same on two channels', [{ message: cc(20, 1) }, { message: cc(20, 2) }], 0],
    ['a controller on the LSB of a 14-bit one', [{ message: { kind: 'controlChange14', channel: 1, controller: 20, range: [0, 16383] } }, { message: cc(52) }], 1],
    ['two chords that share a note', [{ message: { kind: 'note', channel: 1, note: 60, velocity: 1, chord: [0, 4] } }, { message: { kind: 'note', channel: 1, note: 64, velocity: 1 } }], 1],
    ['a controller on a member channel of an MPE zone', [{ message: { kind: 'parameter', channel: 1, registered: true, parameter: 6, bits: 7, range: [0, 4] } }, { message: cc(20, 5) }, { message: cc(20, 6) }], 1],
    ['RPN 0 and NRPN 0', [true, false].map((registered) => ({ message: { kind: 'parameter', channel: 1, registered, parameter: 0, bits: 7, range: [0, 127] } as MessageSpec })), 0],
  ])('%s: %#', (_, mappings, clashes) => expect(ledger(...mappings).clashes).toHaveLength(clashes));

  it('warns of numbers with a meaning of their own, with the reason', () => {
    const reasons = (number: number) => ledger({ message: cc(number) }).warnings.map(({ reason }) => reason);
    expect([0, 38, 97, 100, 64, 88, 74, 20].map((number) => reasons(number)[0] ?? null)).toEqual([
      'bank select',
      'data entry of RPN and NRPN',
      'increment and decrement of RPN and NRPN',
      'parameter number of RPN and NRPN',
      'a pedal',
      'velocity prefix',
      'receivers often hard-wire it',
      null,
    ]);
  });
});

describe('freeControllers', () => {
  it('proposes numbers without a defined meaning first, leaving out used ones and those of 14-bit pairs', () => {
    const rig = testRig([{ message: cc(20) }, { message: cc(22) }, { message: cc(20, 2) }, { message: { kind: 'controlChange14', channel: 1, controller: 23, range: [0, 16383] } }]);
    expect(freeControllers(rig, 'weather', 1).slice(0, 9)).toEqual([21, 24, 25, 26, 27, 28, 29, 30, 31]);
    expect(freeControllers(rig, 'weather', 3)).toHaveLength(39);
  });
});

it.each([[1, null], [10, 'often percussion'], [14, null], [15, 'seldom used by other gear'], [16, 'seldom used by other gear']])(
  'advises on channel %i (common practice): %s',
  (channel, advice) => expect(channelAdvice(channel)).toBe(advice),
);
