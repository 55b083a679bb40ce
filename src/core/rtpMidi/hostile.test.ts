import fc from 'fast-check';
import { expect, it } from 'vitest';
import { decodeJournal, encodeJournal, type ChannelJournal } from './journal';
import { RtpReceiver } from './receiver';
import { decodeSession, encodeSession } from './session';

const seven = fc.integer({ min: 0, max: 127 });
const isOld = fc.boolean();
const unique = <T>(of: fc.Arbitrary<T>, by: (one: T) => number, most: number) => fc.uniqueArray(of, { minLength: 1, maxLength: most, selector: by });

/** Any journal of one channel that fits into its 10 bits of length. */
const channelJournal: fc.Arbitrary<ChannelJournal> = fc.record(
  {
    channel: fc.integer({ min: 0, max: 15 }),
    isOld,
    program: fc.record({ isOld, program: seven, bank: fc.option(fc.tuple(seven, seven)) }),
    controllers: unique(fc.oneof(fc.record({ isOld, controller: seven, tool: fc.constant('value' as const), value: seven }), fc.record({ isOld, controller: seven, tool: fc.constantFrom('toggles' as const, 'count' as const), value: fc.integer({ min: 0, max: 63 }) })), ({ controller }) => controller, 128),
    parameters: fc.record({ isOld, lastIsSelected: fc.boolean(), logs: fc.array(fc.record({ isOld, registered: fc.boolean(), number: fc.integer({ min: 0, max: 16383 }), msb: fc.option(seven), lsb: fc.option(seven), steps: fc.option(fc.integer({ min: -16383, max: 16383 }).map((steps) => steps + 0 || 0)) }), { minLength: 1, maxLength: 20 }) }),
    bend: fc.record({ isOld, bend: fc.integer({ min: 0, max: 16383 }) }),
    notes: fc.record({ isOld, begun: fc.uniqueArray(fc.record({ isOld, note: seven, velocity: seven, mayPlay: fc.boolean() }), { maxLength: 128, selector: ({ note }) => note }), ended: fc.uniqueArray(seven, { maxLength: 128 }).map((notes) => notes.sort((a, b) => a - b)) }),
    pressure: fc.record({ isOld, pressure: seven }),
    polyPressures: unique(fc.record({ isOld, note: seven, pressure: seven }), ({ note }) => note, 60),
  },
  { requiredKeys: ['channel', 'isOld'] },
);

it('any journal is read as it was written', () => {
  fc.assert(
    fc.property(isOld, fc.integer({ min: 0, max: 65_535 }), fc.array(channelJournal, { maxLength: 16 }), (old, checkpoint, channels) => {
      const journal = { isOld: old, checkpoint, channels };
      expect(decodeJournal(encodeJournal(journal))).toEqual(journal);
    }),
    { numRuns: 300 },
  );
});

it('no bytes make it stumble, and none make a message that is none', () => {
  const header = fc.constantFrom([0x80, 0x61], [0x80, 0xe1], [0x90, 0x61], [0xb3, 0x61]);
  const flags = fc.integer({ min: 0, max: 255 });
  fc.assert(
    fc.property(fc.array(fc.tuple(header, fc.array(flags, { minLength: 10, maxLength: 80 })), { maxLength: 20 }), (packets) => {
      const receiver = new RtpReceiver({
        message(bytes) {
          expect(bytes[0]).toBeGreaterThanOrEqual(0x80);
          if (bytes[0] !== 0xf0) for (const data of bytes.subarray(1)) expect(data).toBeLessThan(0x80);
        },
      });
      packets.forEach(([first, rest], i) => {
        const packet = Uint8Array.from([...first, ...rest]);
        packet[2] = 0;
        packet[3] = (3 * i) & 0xff;
        receiver.take(packet, i);
        decodeSession(packet);
        decodeSession(Uint8Array.from([0xff, 0xff, ...rest]));
      });
    }),
    { numRuns: 500 },
  );
});

it('a packet of the session is read as it was written, names and 64-bit clocks as well; others are none', () => {
  for (const packet of [
    { kind: 'invitation', token: 0xfffffff0, ssrc: 7, name: 'Brücke – Steuerbord' },
    { kind: 'bye', token: 1, ssrc: 0xffffffff },
    { kind: 'clock', ssrc: 3, count: 2, times: [0xfedcba9876543210n, 1n, 0n] },
    { kind: 'feedback', ssrc: 9, sequence: 0xffff },
  ] as const) expect(decodeSession(encodeSession(packet as Parameters<typeof encodeSession>[0]))).toEqual(packet);
  const invitation = encodeSession({ kind: 'invitation', token: 1, ssrc: 2, name: 'x' });
  expect(decodeSession(invitation.subarray(0, 12))).toBeNull();
  expect(decodeSession(Uint8Array.from(invitation, (byte, i) => (i === 7 ? 3 : byte)))).toBeNull();
  expect(decodeSession(Uint8Array.of(0xff, 0xff, 0x58, 0x58))).toBeNull();
  // Control characters of a name would break the line that shows it.
  expect(decodeSession(encodeSession({ kind: 'invitation', token: 1, ssrc: 2, name: 'a\u0007\nb' }))).toMatchObject({ name: 'ab' });
});
