import { describe, expect, it } from 'vitest';
import { fillArguments } from '../../core/messages/osc';
import { decodeOsc, encodeOsc, type OscMessage } from './codec';

const bytes = (hex: string) => Uint8Array.from(hex.trim().split(/\s+/), (byte) => parseInt(byte, 16));
const hex = (data: Uint8Array) => Array.from(data, (byte) => byte.toString(16).padStart(2, '0')).join(' ');

/** The worked examples of the Open Sound Control 1.0 specification ("OSC Message Examples"), from memory. */
const FREQUENCY = '2f 6f 73 63 69 6c 6c 61 74 6f 72 2f 34 2f 66 72 65 71 75 65 6e 63 79 00 2c 66 00 00 43 dc 00 00';
const FOO = '2f 66 6f 6f 00 00 00 00 2c 69 69 73 66 66 00 00 00 00 03 e8 ff ff ff ff 68 65 6c 6c 6f 00 00 00 3f 9d f3 b6 40 b5 b2 2d';

describe('the OSC codec', () => {
  it('writes the first worked example: /oscillator/4/frequency with 440.0', () => {
    expect(hex(encodeOsc('/oscillator/4/frequency', [{ type: 'f', value: 440 }]))).toBe(FREQUENCY);
  });
  it('reads both: strings padded to four bytes, type tags, numbers big-endian', () => {
    expect(decodeOsc(bytes(FREQUENCY))).toEqual([{ address: '/oscillator/4/frequency', arguments: [440], atMs: 0 }]);
    const [{ address, arguments: values }] = decodeOsc(bytes(FOO)) as [OscMessage];
    expect([address, values.slice(0, 3)]).toEqual(['/foo', [1000, -1, 'hello']]);
    expect(values[3]).toBeCloseTo(1.234, 6);
    expect(values[4]).toBeCloseTo(5.678, 6);
  });
  it('opens a bundle whose time tag is 1, which means now', () => {
    const bundle = `23 62 75 6e 64 6c 65 00 00 00 00 00 00 00 00 01 00 00 00 20 ${FREQUENCY}`;
    expect(decodeOsc(bytes(bundle))).toEqual([{ address: '/oscillator/4/frequency', arguments: [440], atMs: 0 }]);
  });
  it('refuses bundles in bundles without end', () => {
    let packet = bytes(FREQUENCY);
    for (let i = 0; i < 100; i++) {
      const head = bytes('23 62 75 6e 64 6c 65 00 00 00 00 00 00 00 00 01');
      const size = new Uint8Array(4);
      new DataView(size.buffer).setUint32(0, packet.length);
      packet = Uint8Array.from([...head, ...size, ...packet]);
    }
    expect(() => decodeOsc(packet)).toThrow('bundles lie more than 16 deep');
  });
  it('puts the value of a message in its places, whole for an integer', () => {
    expect(fillArguments([{ type: 'f', value: 'value' }, { type: 'i', value: 'value' }, { type: 's', value: 'fog' }, { type: 'i', value: 3 }], 2.6)).toEqual([
      { type: 'f', value: 2.6 },
      { type: 'i', value: 3 },
      { type: 's', value: 'fog' },
      { type: 'i', value: 3 },
    ]);
  });
});
