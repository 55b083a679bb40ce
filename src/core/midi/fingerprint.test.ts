import { expect, it } from 'vitest';
import { fingerprint } from './fingerprint';

const text = (string: string) => new TextEncoder().encode(string);

it.each([
  ['', 0x811c9dc5],
  ['a', 0xe40c292c],
  ['foobar', 0xbf9cf968],
])('begins with FNV-1a of 32 bits: %j, from the tables of its authors (from memory)', (string, hash) => {
  expect(Math.floor(fingerprint(text(string)) / 2 ** 21)).toBe(hash);
});

it('tells every message of a channel from every other, and packets of OSC that differ in little', () => {
  const seen = new Set<number>();
  let count = 0;
  const add = (bytes: Uint8Array) => {
    seen.add(fingerprint(bytes));
    count++;
  };
  for (let status = 0x80; status < 0x100; status++) add(Uint8Array.of(status));
  for (const status of [0x80, 0x93, 0xb0, 0xbf, 0xe5]) for (let i = 0; i < 0x4000; i++) add(Uint8Array.of(status, i & 127, i >> 7));
  for (const status of [0xc0, 0xd7]) for (let i = 0; i < 128; i++) add(Uint8Array.of(status, i));
  for (let i = 0; i < 100_000; i++) {
    const packet = text('/deck/rope/strain\0\0\0,fff\0\0\0\0............');
    new DataView(packet.buffer).setFloat32(packet.length - 12, i / 1000);
    packet[packet.length - 1] = i % 2;
    add(packet);
  }
  expect(seen.size).toBe(count);
  expect([...seen].every(Number.isSafeInteger)).toBe(true);
});
