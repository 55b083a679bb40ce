import fc from 'fast-check';
import { expect, it } from 'vitest';
import { FrameReader, frameOf, midiFrame, type ToPorts } from './frames';

it('reads what was written, in its order, however the pipe cuts it', () => {
  const message = fc.oneof(
    fc.record({ port: fc.nat(0xffff), bytes: fc.uint8Array({ minLength: 1, maxLength: 300 }) }),
    fc.record({ kind: fc.constant('make' as const), port: fc.nat(0xffff), name: fc.string({ maxLength: 80 }) }),
  );
  fc.assert(
    fc.property(fc.array(message, { maxLength: 30 }), fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 20 }), (messages, cuts) => {
      const stream = Buffer.concat(messages.map((one) => ('kind' in one ? frameOf(one) : midiFrame(one.port, one.bytes))));
      const read: unknown[] = [];
      const reader = new FrameReader<ToPorts>((one) => read.push(one), (port, bytes) => read.push({ port, bytes: Uint8Array.from(bytes) }));
      for (let at = 0, n = 0; at < stream.length; n++) {
        const length = cuts[n % cuts.length]!;
        reader.push(stream.subarray(at, at + length));
        at += length;
      }
      expect(read).toEqual(messages);
    }),
  );
});

it('says so where the other end speaks something else', () => {
  const reader = new FrameReader(() => undefined, () => undefined);
  expect(() => reader.push(Buffer.from('HTTP/1.1 200 OK'))).toThrow('speaks something else');
});
