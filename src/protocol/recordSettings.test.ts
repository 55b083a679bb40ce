import { expect, it } from 'vitest';
import { mustBe } from './check';
import { DEFAULT_RECORD_SETTINGS, recordSettingsSchema } from './recordSettings';

it('kept by an earlier version, with beats of a bar of their own, are read; the meter of the rig counts', () => {
  expect(mustBe(recordSettingsSchema, { ...DEFAULT_RECORD_SETTINGS, beatsPerBar: 3 })).toEqual(DEFAULT_RECORD_SETTINGS);
});
