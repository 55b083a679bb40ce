import { expect, it } from 'vitest';
import { bendInWords, bendStepCents } from './bendStep';
import { played, wayOf, WAYS_OF_PLAYING } from './waysOfPlaying';
import { voiceRig } from '../engine/voices/testVoices';

it('a step is 0.586 cent at range 48, 0.024 at 2 (engine.md: 8192 steps each way)', () => {
  expect(bendStepCents(48)).toBeCloseTo(0.586, 3);
  expect(bendInWords(2, null)).toBe('The receiver bends by 2 semitones: one step is 0.024 cents.');
  expect(bendInWords(12, 24)).toBe('The receiver bends by 12 semitones: one step is 0.15 cents. A finger can glide further, 24 semitones: beyond the range it stays at its end.');
  expect(bendInWords(0, 24)).toBe('The receiver bends by nothing: every voice stays on its key.');
});

it.each(WAYS_OF_PLAYING)('a voice mapping that is played %s is known to be, and back again', (way) => {
  const [mapping] = voiceRig({}).voiceMappings;
  const once = { ...mapping!, ...played(mapping!, way, mapping!.layout) };
  expect(wayOf(once)).toBe(way);
  expect(wayOf({ ...once, ...played(once, 'free', mapping!.layout) })).toBe('free');
  expect({ ...once, ...played(once, 'free', mapping!.layout) }.layout).toEqual(mapping!.layout);
});
