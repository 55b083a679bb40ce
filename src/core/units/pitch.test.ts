import { expect, it } from 'vitest';
import { noteToHz } from './pitch';

it('note 69 is 440 Hz and note 60 is 261.626 Hz (12-tone equal temperament, ISO 16)', () => {
  expect(noteToHz(69)).toBe(440);
  expect(noteToHz(60)).toBeCloseTo(261.626, 3);
});
