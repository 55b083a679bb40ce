import { expect, it } from 'vitest';
import { ByteReader, ByteWriter } from './bytes';

it.each([
  [0, [0]],
  [127, [0x7f]],
  [128, [0x80, 0x01]],
  [16_383, [0xff, 0x7f]],
  [2 ** 31 - 1, [0xff, 0xff, 0xff, 0xff, 0x07]],
  [2 ** 31, [0x80, 0x80, 0x80, 0x80, 0x08]],
  [2 ** 32 + 5, [0x85, 0x80, 0x80, 0x80, 0x10]],
  [2 ** 53 - 1, [0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0x0f]],
])('a count of %d is seven bits a byte, the lowest first (LEB128, as in DWARF 5, section 7.6), and is read back', (value, bytes) => {
  const out = new ByteWriter();
  out.count(value);
  const written = out.take();
  expect([...written]).toEqual(bytes);
  expect(new ByteReader(written).count()).toBe(value);
});
