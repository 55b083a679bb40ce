import { describe, expect, it } from 'vitest';
import { addressInWords, addressKey, fullness, fullnessAtRest, isGateMessage, leaving, MESSAGE_KINDS, MESSAGES, numbersOf, rangeEnds, wireLimits, wireRange, type MessageSpec } from '../../core/messages';
import type { Before } from '../../core/messages/kind';
import { decode, splitMessages } from '../../core/midi/decode';
import { check } from '../check';
import { message as schema } from './message';

const BEFORE: Before = { channel: 3, controller: 40, note: 60, free: [20, 102] };
const free = () => BEFORE.free;

/** The bytes of a value, with nothing known of the receiver. */
function bytesOf(message: MessageSpec, value: number): number[] {
  const bytes: number[] = [];
  const pen = { put: (byte: number) => void bytes.push(byte), three: (...three: number[]) => void bytes.push(...three), mustSelect: () => true };
  (MESSAGES[message.kind].write as (...args: unknown[]) => void)(message, value, pen, 0, -1);
  return bytes;
}

describe.each(MESSAGE_KINDS)('%s', (kind) => {
  const fresh = MESSAGES[kind].fresh(BEFORE) as MessageSpec;
  const others = [...(MESSAGES[kind].others as (message: MessageSpec, free: () => readonly number[]) => Iterable<MessageSpec>)(fresh, free)].slice(0, 5);

  it('makes messages that the schema takes, with numbers and a range inside its ends', () => {
    for (const message of [fresh, ...others]) expect(check(schema, message)).toEqual({ ok: true, value: message });
    for (const { value, least, most } of numbersOf(fresh)) expect(value >= least && value <= most).toBe(true);
    if (!('range' in fresh)) return;
    const [least, most] = rangeEnds(fresh);
    expect([fresh.range[0] >= least, fresh.range[1] <= most]).toEqual([true, true]);
    expect(check(schema, { ...fresh, range: [least - 1, most] }).ok).toBe(false);
  });
  it('counts on to another address, and has words for it', () => {
    if (others.length > 0) expect(others.some((other) => addressKey('out', other) !== addressKey('out', fresh))).toBe(true);
    expect(addressInWords(fresh)).not.toBe('');
  });
  it('writes whole messages and nothing else, within its limits', () => {
    const [lo, hi] = wireLimits(fresh).map((end) => Math.max(-1e6, Math.min(1e6, end))) as [number, number];
    for (const value of kind === 'relative' ? [-8, 8] : [lo, Math.round((lo + hi) / 2), hi]) {
      const bytes = bytesOf(fresh, value);
      if (kind === 'note' || kind === 'osc') expect(bytes).toEqual([]);
      else for (const one of splitMessages(Uint8Array.from(bytes))) expect(decode(one)).not.toBeNull();
    }
  });
  it('says how much leaves at both ends', () => {
    expect([fullness(fresh, 0) >= 0, fullness(fresh, 1) <= 1]).toEqual([true, true]);
    expect(leaving(fresh, 1)).toBeGreaterThanOrEqual(leaving(fresh, 0));
    expect(wireRange(fresh, 2)).toHaveLength(2);
    expect(isGateMessage(fresh, 'gate') || !isGateMessage(fresh, 'continuous')).toBe(true);
    if ('range' in fresh) expect(fullness({ ...fresh, range: [fresh.range[1], fresh.range[0]] }, 0.2)).toBeCloseTo(fullness(fresh, 0.8), 9);
  });
});

it.each<[MessageSpec, levels: number[], full: number[], rest: number]>([
  [{ kind: 'controlChange', channel: 1, controller: 7, range: [127, 0] }, [0, 1], [1, 0], 0],
  [{ kind: 'pitchBend', channel: 1, range: [16383, 0] }, [0, 1], [1, 0], 8192 / 16383],
  [{ kind: 'pitchBend', channel: 1, range: [-2, 2], unit: 'semitones' }, [0, 0.5, 1], [0, 0.5, 1], 0.5],
  [{ kind: 'pitchBend', channel: 1, range: [12, -6], unit: 'semitones' }, [0, 1], [1, 0.25], 0.5],
  [{ kind: 'programChange', channel: 1, range: [1, 128] }, [0, 1], [0, 1], 0],
  [{ kind: 'osc', address: '/a', arguments: [], range: [3, -1] }, [0, 1], [1, 0], 0.25],
  [{ kind: 'sysEx', bytes: ['value'], range: [127, 0] }, [0, 1], [1, 0], 0],
  [{ kind: 'relative', channel: 1, controller: 7, encoding: 'signedBit', steps: 64, most: 8 }, [0, 1], [0, 1], 0],
])('a picture of %j shows its numbers, larger ones higher, and where it is neither up nor down', (message, levels, full, rest) => {
  expect(levels.map((level) => fullness(message, level))).toEqual(full);
  expect(fullnessAtRest(message)).toBe(rest);
});

// MIDI 1.0 Detailed Specification: Control Change, RPN 0 (pitch bend sensitivity), Pitch Bend, Program Change; RP-013 (MMC).
it.each<[MessageSpec, number, string]>([
  [{ kind: 'controlChange', channel: 16, controller: 7, range: [0, 127] }, 100, 'BF 07 64'],
  [{ kind: 'controlChange14', channel: 1, controller: 1, range: [0, 16383] }, 8192, 'B0 01 40 B0 21 00'],
  [{ kind: 'parameter', channel: 1, registered: true, parameter: 0, bits: 7, range: [0, 127], nullAfter: true }, 12, 'B0 65 00 B0 64 00 B0 06 0C B0 65 7F B0 64 7F'],
  [{ kind: 'parameter', channel: 2, registered: false, parameter: 300, bits: 14, range: [0, 16383] }, 129, 'B1 63 02 B1 62 2C B1 06 01 B1 26 01'],
  [{ kind: 'pitchBend', channel: 1, range: [0, 16383] }, 8192, 'E0 00 40'],
  [{ kind: 'programChange', channel: 1, range: [1, 128], bank: { msb: 1, lsb: 2 } }, 4, 'B0 00 01 B0 20 02 C0 04'],
  [{ kind: 'machine', device: 127, command: 'recordStrobe' }, 1, 'F0 7F 7F 06 06 F7'],
  [{ kind: 'transport', action: 'continue' }, 1, 'FB'],
  [{ kind: 'sysEx', bytes: [0x7d, 'msb', 'lsb'], range: [0, 16383] }, 300, 'F0 7D 02 2C F7'],
  [{ kind: 'relative', channel: 1, controller: 20, encoding: 'twosComplement', steps: 128, most: 8 }, -1, 'B0 14 7F'],
  [{ kind: 'relative', channel: 1, controller: 20, encoding: 'binaryOffset', steps: 128, most: 8 }, -1, 'B0 14 3F'],
  [{ kind: 'relative', channel: 1, controller: 20, encoding: 'signedBit', steps: 128, most: 8 }, -1, 'B0 14 41'],
])('writes %j at %i as %s', (message, value, bytes) => {
  expect(bytesOf(message, value).map((byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' ')).toBe(bytes);
});

it('a bend in semitones is shown to a tenth of one, one in steps in whole steps', () => {
  expect(leaving({ kind: 'pitchBend', channel: 1, unit: 'semitones', range: [-12, 12] }, 0.93)).toBe(10.3);
  expect(leaving({ kind: 'pitchBend', channel: 1, range: [0, 16383] }, 0.5)).toBe(8192);
});
