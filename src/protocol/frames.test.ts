import fc from 'fast-check';
import { LIMITS } from './limits';
import { describe, expect, it } from 'vitest';
import {
  decodeFacts,
  decodeHeard,
  decodeValues,
  encodeFacts,
  encodeHeard,
  encodeSamples,
  encodeValues,
  FRAME,
  sampleCount,
  samplesFault,
  sampleSequence,
  sampleSignal,
  sampleTimeMs,
  sampleValue,
  type Fact,
  type Heard,
} from './frames';

const number = fc.integer({ min: 0, max: 65534 });
const float = fc.float({ noNaN: true });
const view = (buffer: ArrayBuffer) => new DataView(buffer);

it('a fact of more bytes than one byte can count is whole, and a very long one is cut', () => {
  const long = (length: number) => ({ direction: 'out' as const, hubTimeMs: 1, output: 1, who: 'ending' as const, mapping: null, delayMs: null, bytes: Uint8Array.from({ length }, (_, i) => i & 127) });
  const after = { direction: 'in' as const, hubTimeMs: 2, signal: 3, value: 4 };
  const read = decodeFacts(new DataView(encodeFacts([long(300), long(9000), after], 0)))!;
  expect(read.facts.map((fact) => (fact.direction === 'out' ? fact.bytes.length : fact))).toEqual([300, LIMITS.factBytes, after]);
});

describe('a samples frame', () => {
  it('of one sample has 24 bytes, little-endian', () => {
    const bytes = new Uint8Array(encodeSamples(7, 1000.5, [{ signal: 258, value: 0.5 }]));
    expect([...bytes]).toEqual([1, 1, 0, 0, 7, 0, 0, 0, 0, 0, 0, 0, 0, 0x44, 0x8f, 0x40, 2, 1, 0, 0, 0, 0, 0, 0x3f]);
  });
  it('is read back as it was written', () => {
    fc.assert(
      fc.property(fc.nat(0xffffffff), fc.double({ noNaN: true, noDefaultInfinity: true }), fc.array(fc.record({ signal: number, value: float }), { maxLength: 255 }), (sequence, timeMs, samples) => {
        const frame = view(encodeSamples(sequence, timeMs, samples));
        expect(samplesFault(frame)).toBeNull();
        expect([sampleSequence(frame), sampleTimeMs(frame), sampleCount(frame)]).toEqual([sequence, timeMs, samples.length]);
        samples.forEach(({ signal, value }, i) => expect([sampleSignal(frame, i), sampleValue(frame, i)]).toEqual([signal, value]));
      }),
    );
  });
  it.each([
    ['nothing', new Uint8Array(0), 'kind'],
    ['another kind', Uint8Array.of(9, 0, 0, 0), 'kind'],
    ['too few bytes', new Uint8Array(15).fill(1, 0, 1), 'length'],
    ['a count that is not there', new Uint8Array(24).fill(1, 0, 1).fill(2, 1, 2), 'count'],
    ['a time that is no number', new Uint8Array(encodeSamples(0, NaN, [])), 'hubTimeMs'],
  ])('of %s is refused, naming the field', (_, bytes, field) => {
    expect(samplesFault(view(bytes.buffer as ArrayBuffer))?.field).toBe(field);
  });
});

describe('frames to watchers', () => {
  it('carry values there and back', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(number, float), { maxLength: 300 }), (pairs) => {
        const frame = { hubTimeMs: 12.25, heardUpTo: 4_000_000_000, numbers: pairs.map(([n]) => n), values: pairs.map(([, v]) => v) };
        expect(decodeValues(view(encodeValues(FRAME.levels, frame)))).toEqual(frame);
      }),
    );
  });
  it('carry what a receiver hears there and back', () => {
    const heard: Heard[] = [
      { kind: 'controlChange', channel: 3, number: 21, value: 87 },
      { kind: 'note', channel: 10, number: 67, value: 0 },
      { kind: 'pitchBend', channel: 16, number: 0, value: 16383 },
    ];
    expect(decodeHeard(view(encodeHeard(4, heard)))).toEqual({ output: 4, heard });
  });
  it('carry facts there and back, with the count of those left out', () => {
    const facts: Fact[] = [
      { direction: 'in', hubTimeMs: 1.5, signal: 3, value: 0.25 },
      { direction: 'out', hubTimeMs: 2.5, output: 1, who: 'clock', mapping: null, delayMs: null, bytes: Uint8Array.of(0xf8) },
      { direction: 'out', hubTimeMs: 3.5, output: 1, who: 'mapping', mapping: 7, delayMs: 1.5, bytes: Uint8Array.of(0xb2, 21, 87) },
    ];
    expect(decodeFacts(view(encodeFacts(facts, 12)))).toEqual({ facts, dropped: 12 });
  });
  it('are never read where bytes are missing or wrong, and never throw', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (bytes) => {
        const hostile = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
        for (const read of [decodeValues, decodeHeard, decodeFacts, samplesFault]) read(hostile);
      }),
      { numRuns: 20_000 },
    );
    expect(decodeFacts(view(encodeFacts([{ direction: 'in', hubTimeMs: 1, signal: 1, value: 1 }], 0).slice(0, -1)))).toBeNull();
  });
});
