import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decode } from './decode';
import { describeBytes, hexOf, noteName } from './describe';
import { encode } from './encode';
import type { MidiMessage } from './message';

const sevenBit = fc.integer({ min: 0, max: 127 });
const channel = fc.integer({ min: 1, max: 16 });
const fourteenBit = fc.integer({ min: 0, max: 16383 });

const anyMessage: fc.Arbitrary<MidiMessage> = fc.oneof(
  fc.record({ kind: fc.constantFrom('noteOn' as const, 'noteOff' as const), channel, note: sevenBit, velocity: sevenBit }),
  fc.record({ kind: fc.constant('polyPressure' as const), channel, note: sevenBit, pressure: sevenBit }),
  fc.record({ kind: fc.constant('controlChange' as const), channel, controller: sevenBit, value: sevenBit }),
  fc.record({ kind: fc.constant('programChange' as const), channel, program: sevenBit }),
  fc.record({ kind: fc.constant('channelPressure' as const), channel, pressure: sevenBit }),
  fc.record({ kind: fc.constant('pitchBend' as const), channel, bend: fourteenBit }),
  fc.record({ kind: fc.constant('sysEx' as const), data: fc.uint8Array({ max: 127, maxLength: 64 }) }),
  fc.record({ kind: fc.constant('timeCode' as const), data: sevenBit }),
  fc.record({ kind: fc.constant('songPosition' as const), sixteenths: fourteenBit }),
  fc.record({ kind: fc.constant('songSelect' as const), song: sevenBit }),
  fc.record({ kind: fc.constantFrom('tuneRequest', 'clock', 'start', 'continue', 'stop', 'activeSensing', 'reset') }) as fc.Arbitrary<MidiMessage>,
);

describe('encode', () => {
  it.each<[string, MidiMessage, string]>([
    ['bend, channel 1, centre (MIDI 1.0 Detailed Specification)', { kind: 'pitchBend', channel: 1, bend: 8192 }, 'E0 00 40'],
    ['CC 1 = 64 on channel 3 (MIDI 1.0)', { kind: 'controlChange', channel: 3, controller: 1, value: 64 }, 'B2 01 40'],
    ['CC 21 = 87 on channel 3', { kind: 'controlChange', channel: 3, controller: 21, value: 87 }, 'B2 15 57'],
    ['note on, channel 10', { kind: 'noteOn', channel: 10, note: 67, velocity: 100 }, '99 43 64'],
    ['song position, LSB first (MIDI 1.0)', { kind: 'songPosition', sixteenths: 130 }, 'F2 02 01'],
    ['SysEx', { kind: 'sysEx', data: Uint8Array.of(0x7d, 1) }, 'F0 7D 01 F7'],
  ])('%s', (_, message, bytes) => expect(hexOf(encode(message))).toBe(bytes));

  it('is undone by decode for every message', () => {
    fc.assert(fc.property(anyMessage, (message) => void expect(decode(encode(message))).toEqual(message)), { numRuns: 2000 });
  });
});

describe('decode', () => {
  it('never throws, and gives back only what encodes to the same bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 6 }), (bytes) => {
        const message = decode(bytes);
        if (message) expect(encode(message)).toEqual(bytes);
      }),
      { numRuns: 20_000 },
    );
  });
  it.each(['', '40', 'B2 15', 'B2 15 57 00', 'B2 80 00', 'F4', 'F0 01', 'F0 80 F7'])('refuses %s', (hex) => {
    expect(decode(Uint8Array.from(hex ? hex.split(' ').map((byte) => parseInt(byte, 16)) : []))).toBeNull();
  });
});

describe('words', () => {
  it('says a message as the monitor shows it', () => {
    expect(describeBytes(Uint8Array.of(0xb2, 21, 87))).toBe('channel 3 · CC 21 · 87');
    expect(describeBytes(Uint8Array.of(0x99, 67, 100))).toBe('channel 10 · note G4 on · 100');
    expect(describeBytes(Uint8Array.of(0xf4))).toBe('bytes F4');
  });
  it('names note 60 C4 and 69 A4, and pitches below all keys', () => expect([noteName(60), noteName(69), noteName(0), noteName(-1), noteName(-13)]).toEqual(['C4', 'A4', 'C-1', 'B-2', 'B-3']));
});
