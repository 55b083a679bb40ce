import { execFile } from 'node:child_process';
import { existsSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';

const TSHARK = '/usr/bin/tshark';
const run = promisify(execFile);
export const hasDissector = existsSync(TSHARK);

/** A datagram, and by which UDP ports it went. */
export interface Flight {
  from: number;
  to: number;
  bytes: Uint8Array;
}

/**
 * What Debian's `tshark` reads in these datagrams: a line a packet. They are given to it as a file, so that nothing is captured.
 * The file format is that of libpcap (magic number, version 2.4, raw IP), the headers IPv4 (RFC 791) and UDP (RFC 768).
 */
export async function dissect(flights: readonly Flight[]): Promise<{ protocol: string; malformed: boolean; details: string }[]> {
  const head = Buffer.alloc(24);
  head.writeUInt32LE(0xa1b2c3d4, 0);
  head.writeUInt16LE(2, 4);
  head.writeUInt16LE(4, 6);
  head.writeUInt32LE(65_535, 16);
  head.writeUInt32LE(101, 20);
  const records = flights.map(({ from, to, bytes }, i) => {
    const length = 28 + bytes.length;
    const packet = Buffer.alloc(16 + length);
    packet.writeUInt32LE(1 + i, 0);
    packet.writeUInt32LE(length, 8);
    packet.writeUInt32LE(length, 12);
    packet[16] = 0x45;
    packet.writeUInt16BE(length, 18);
    packet[24] = 64;
    packet[25] = 17;
    packet.set([127, 0, 0, 1, 127, 0, 0, 1], 28);
    packet.writeUInt16BE(from, 36);
    packet.writeUInt16BE(to, 38);
    packet.writeUInt16BE(8 + bytes.length, 40);
    packet.set(bytes, 44);
    return packet;
  });
  const file = join(mkdtempSync(join(tmpdir(), 'pumice-packets-')), 'session.pcap');
  writeFileSync(file, Buffer.concat([head, ...records]));
  // Beside what goes on: whoever is held up by it would count as gone.
  const read = async (...more: string[]) => (await run(TSHARK, ['-n', '-r', file, ...more], { maxBuffer: 64e6 })).stdout;
  const lines = (await read('-T', 'fields', '-e', 'frame.protocols', '-e', '_ws.malformed')).trim().split('\n');
  const details = (await read('-V')).split(/^Frame \d+:/m).slice(1);
  return lines.map((line, i) => ({ protocol: line.split('\t')[0]!.split(':').pop()!, malformed: /malformed/i.test(line) || /Malformed/.test(details[i] ?? ''), details: details[i] ?? '' }));
}
