import Joi from 'joi';
import { id } from './rig/pieces';

/** How takes are begun and ended, besides by key and button. */
export interface RecordSettings {
  /** The gate that begins a take and ends it, and the scene that does; of whatever rig is open. */
  gate: string | null;
  scene: string | null;
  /** Whether Start and Stop do, of MIDI inputs and of the transport. */
  transport: boolean;
  /** What is counted before a take begins: bars in the meter of the rig, or seconds; 0 for nothing. */
  countIn: { of: 'bars' | 'seconds'; many: number };
  /** Whether beats click where the stand-ins are heard. */
  metronome: boolean;
}

export const DEFAULT_RECORD_SETTINGS: RecordSettings = { gate: null, scene: null, transport: false, countIn: { of: 'bars', many: 0 }, metronome: false };

export const recordSettingsSchema = Joi.object<RecordSettings & { beatsPerBar?: unknown }>({
  gate: id.allow(null).required(),
  scene: id.allow(null).required(),
  transport: Joi.boolean().required(),
  countIn: Joi.object({ of: Joi.valid('bars', 'seconds').required(), many: Joi.number().min(0).max(30).required() }).required(),
  // Kept by an earlier version; since then the meter of the rig counts.
  beatsPerBar: Joi.any().strip(),
  metronome: Joi.boolean().required(),
});
