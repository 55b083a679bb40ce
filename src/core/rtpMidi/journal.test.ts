import { describe, expect, it } from 'vitest';
import { JournalHistory } from './history';
import { decodeJournal, encodeJournal, type Journal } from './journal';
import { decodeList, encodeList } from './midiList';
import { decodePacket, encodePacket } from './packet';
import { SysExJoiner, sysExPieces } from './sysExPieces';

/** Spaces are for the eye. */
const bytes = (text: string) => Uint8Array.from(text.replace(/ /g, '').match(/../g)!.map((pair) => parseInt(pair, 16)));
const hex = (all: Uint8Array) => [...all].map((byte) => byte.toString(16).padStart(2, '0')).join(' ');

/**
 * Worked out by hand from the figures of RFC 6295 (section 5: journal and channel header; appendix A: chapters P, C, M, W, N,
 * T, A), from memory of them; `test/integration/networkMidi.test.ts` has Debian's dissector read the same layouts.
 */
describe('a journal as the figures draw it', () => {
  it('of a note that began and one that ended on channel 1', () => {
    const journal: Journal = { isOld: false, checkpoint: 0x1234, channels: [{ channel: 0, isOld: false, notes: { isOld: false, begun: [{ isOld: true, note: 60, velocity: 100, mayPlay: true }], ended: [62, 64] } }] };
    // Header A=1, one channel, checkpoint. Channel 0, length 9, chapter N. B=0, one log; octets 7 to 8. S=1, 60, Y=1, 100. 62: bit 1 of octet 7; 64: bit 7 of octet 8.
    const drawn = bytes('20 12 34  00 09 08  01 78  bc e4  02 80');
    expect(hex(encodeJournal(journal))).toBe(hex(drawn));
    expect(decodeJournal(drawn)).toEqual(journal);
  });

  it('of program with bank, controllers, bend and pressures on channel 16', () => {
    const journal: Journal = {
      isOld: true,
      checkpoint: 7,
      channels: [
        {
          channel: 15,
          isOld: true,
          program: { isOld: true, program: 5, bank: [1, 2] },
          controllers: [
            { isOld: true, controller: 7, tool: 'value', value: 99 },
            { isOld: true, controller: 64, tool: 'toggles', value: 3 },
            { isOld: false, controller: 123, tool: 'count', value: 2 },
          ],
          bend: { isOld: true, bend: 8192 + 5 },
          pressure: { isOld: true, pressure: 77 },
          polyPressures: [{ isOld: true, note: 60, pressure: 1 }],
        },
      ],
    };
    const drawn = bytes('a0 00 07  f8 13 d3  85 81 02  02 87 63 c0 83 7b c2  85 40  cd  80 bc 01');
    expect(hex(encodeJournal(journal))).toBe(hex(drawn));
    expect(decodeJournal(drawn)).toEqual(journal);
  });

  it('of a registered parameter that is selected, and one of the maker that was stepped down', () => {
    const journal: Journal = {
      isOld: false,
      checkpoint: 0xffff,
      channels: [
        {
          channel: 2,
          isOld: false,
          parameters: {
            isOld: false,
            lastIsSelected: true,
            logs: [
              { isOld: true, registered: false, number: (3 << 7) | 4, msb: null, lsb: null, steps: -2 },
              { isOld: false, registered: true, number: 0, msb: 48, lsb: 0, steps: null },
            ],
          },
        },
      ],
    };
    const drawn = bytes('20 ff ff  10 0f 20  20 0c  84 83 22 80 02  00 00 c2 30 00');
    expect(hex(encodeJournal(journal))).toBe(hex(drawn));
    expect(decodeJournal(drawn)).toEqual(journal);
  });

  it('of 128 notes, for whose number the header has a way of its own', () => {
    const begun = Array.from({ length: 128 }, (_, note) => ({ isOld: true, note, velocity: 1, mayPlay: false }));
    const journal: Journal = { isOld: true, checkpoint: 0, channels: [{ channel: 0, isOld: true, notes: { isOld: true, begun, ended: [] } }] };
    expect(hex(encodeJournal(journal).subarray(6, 8))).toBe('ff f0');
    expect(decodeJournal(encodeJournal(journal))).toEqual(journal);
  });

  it('with a system journal before the channels, and chapter E, both passed over', () => {
    // S Y A: system and channel journal. System: 4 octets with its header. Channel 0: N (no logs, no fields) and E (one log).
    expect(decodeJournal(bytes('60 00 01  40 04 81 01  00 08 0c  80 f1  00 3c 40'))).toEqual({ isOld: false, checkpoint: 1, channels: [{ channel: 0, isOld: false, notes: { isOld: true, begun: [], ended: [] } }] });
  });

  it('is none where it is cut, at whatever byte, or says more than there is', () => {
    const whole = bytes('20 12 34  00 09 08  01 78  bc e4  02 80');
    for (let length = 0; length < whole.length; length++) expect(decodeJournal(whole.subarray(0, length)), `${length}`).toBeNull();
    expect(decodeJournal(bytes('20 00 00  00 02 08  80 f1'))).toBeNull();
    expect(decodeJournal(bytes('20 00 00  00 04 08  80 f1'))).toBeNull();
  });
});

describe('the logs of what was said', () => {
  it('stand with the oldest first (RFC 6295 appendix A.1, from memory): a receiver may play them in their order', () => {
    const history = new JournalHistory(0);
    const say = (packet: number, ...command: number[]) => history.sent(packet, Uint8Array.from(command), packet);
    say(1, 0xb0, 10, 1);
    say(2, 0xb0, 1, 2);
    say(3, 0xb0, 74, 3);
    say(4, 0x90, 64, 80);
    say(5, 0x90, 60, 90);
    say(6, 0xb0, 10, 4);
    const [channel] = history.journal(7, 7).channels;
    expect(channel!.controllers!.map(({ controller, value }) => [controller, value])).toEqual([
      [1, 2],
      [74, 3],
      [10, 4],
    ]);
    expect(channel!.notes!.begun.map(({ note }) => note)).toEqual([64, 60]);
  });
});

describe('a packet', () => {
  const packet = { sequence: 0xfffe, timestamp: 0xdeadbeef, ssrc: 0x01020304, list: bytes('90 3c 64'), startsWithDelta: false, journal: null };

  it('has the header of RFC 3550 and the short header of its list', () => {
    expect(hex(encodePacket(packet))).toBe('80 e1 ff fe de ad be ef 01 02 03 04 03 90 3c 64');
    expect(decodePacket(encodePacket(packet))).toEqual(packet);
  });

  it('has a long header from 16 octets on, and a journal behind', () => {
    const long = { ...packet, list: new Uint8Array(0x123).fill(0xf8), journal: bytes('a0 00 00') };
    expect(hex(encodePacket(long).subarray(12, 14))).toBe('c1 23');
    expect(decodePacket(encodePacket(long))).toEqual(long);
  });

  it('without commands has no marker', () => {
    expect(hex(encodePacket({ ...packet, list: new Uint8Array(0), journal: bytes('a0 00 00') }).subarray(0, 2))).toBe('80 61');
  });

  it('passes over contributing sources, an extension and padding, and is none where they lie', () => {
    expect(decodePacket(bytes('b1 61 00 01 00 00 00 00 00 00 00 02  00 00 00 09  00 00 00 01 00 00 00 00  03 90 3c 64  00 02'))).toMatchObject({ sequence: 1, list: bytes('90 3c 64') });
    expect(decodePacket(bytes('90 61 00 01 00 00 00 00 00 00 00 02 00 00 ff ff 03'))).toBeNull();
    expect(decodePacket(bytes('80 61 00 01 00 00 00 00 00 00 00 02 0f 90'))).toBeNull();
    expect(decodePacket(bytes('80 00 00 01 00 00 00 00 00 00 00 02 03 90 3c 64'))).toBeNull();
  });
});

describe('a list', () => {
  const read = (text: string, startsWithDelta = false) => decodeList(bytes(text), startsWithDelta)?.map(({ bytes: of, afterTicks }) => `${afterTicks}: ${hex(of)}`);

  it('is read with running status, which real-time commands leave alone', () => {
    expect(read('90 3c 64 00 3e 64 00 f8 00 40 00')).toEqual(['0: 90 3c 64', '0: 90 3e 64', '0: f8', '0: 90 40 00']);
  });

  it('has delta times of one to four octets, which add up', () => {
    expect(read('05 90 3c 64 81 00 3c 00 81 80 80 00 c0 01', true)).toEqual(['5: 90 3c 64', '133: 90 3c 00', '2097285: c0 01']);
  });

  it('is none with data where a status belongs, five octets of time, or a SysEx without an end', () => {
    for (const text of ['3c 64', '90 3c', '90 3c 64 81 81 81 81 00 3c 00', 'f0 01 02', '90 3c f8', 'f0 01 90 f7', 'f6 00 3c 64']) expect(read(text), text).toBeUndefined();
  });

  it('is what was written', () => {
    const commands = [bytes('b0 07 01'), bytes('f0 01 02 f7'), bytes('e0 00 40')];
    expect(decodeList(encodeList(commands), false)?.map((one) => one.bytes)).toEqual(commands);
    expect(encodeList([])).toHaveLength(0);
  });
});

describe('a long SysEx', () => {
  it('goes in pieces, and is put together', () => {
    const message = Uint8Array.of(0xf0, ...Array.from({ length: 10 }, (_, i) => i), 0xf7);
    const pieces = sysExPieces(message, 6);
    expect(pieces.map(hex)).toEqual(['f0 00 01 02 03 f0', 'f7 04 05 06 07 f0', 'f7 08 09 f7']);
    const joiner = new SysExJoiner();
    expect(pieces.map((piece) => joiner.take(piece))).toEqual([null, null, message]);
  });

  it('is nothing where its beginning is missing, a packet was lost in it, or it was cancelled', () => {
    const joiner = new SysExJoiner();
    expect(joiner.take(bytes('f7 01 f7'))).toBeNull();
    joiner.take(bytes('f0 01 f0'));
    joiner.lost();
    expect(joiner.take(bytes('f7 02 f7'))).toBeNull();
    joiner.take(bytes('f0 01 f0'));
    expect(joiner.take(bytes('f7 f4'))).toBeNull();
    expect(joiner.take(bytes('f7 02 f7'))).toBeNull();
  });
});
