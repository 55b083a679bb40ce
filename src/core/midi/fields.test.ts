import { expect, it } from 'vitest';
import { decode } from './decode';
import { hexOf } from './describe';
import { encode } from './encode';
import { bankAndProgram, CHOOSABLE, CHOOSABLE_KINDS, shownOf, withShown } from './fields';

it.each(CHOOSABLE_KINDS)('%s is a whole message, with each of its numbers at both ends', (kind) => {
  const { fresh, fields } = CHOOSABLE[kind];
  expect(decode(encode(fresh))).toEqual(fresh);
  for (const field of fields) {
    for (const end of [field.least, field.most]) {
      const message = withShown(fresh, field, end + field.from);
      expect(decode(encode(message)), `${field.name} ${end}`).toEqual(message);
      expect(shownOf(message, field)).toBe(end + field.from);
    }
  }
});

// MIDI 1.0: status C0 with the program from 0; bank select is controller 0 (upper seven bits) and 32 (lower seven).
it('counts as people do: program 1 is 0 on the wire, a bend of 0 its middle', () => {
  const [, program] = CHOOSABLE.programChange.fields;
  expect(hexOf(encode(withShown(CHOOSABLE.programChange.fresh, program!, 128)))).toBe('C0 7F');
  const [, bend] = CHOOSABLE.pitchBend.fields;
  expect(hexOf(encode(withShown(CHOOSABLE.pitchBend.fresh, bend!, 0)))).toBe('E0 00 40');
  expect(bankAndProgram(2, 130, 4).map((message) => hexOf(encode(message)))).toEqual(['B1 00 01', 'B1 20 02', 'C1 04']);
});
