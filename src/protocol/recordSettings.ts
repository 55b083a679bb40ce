import Joi from 'joi';
import { id } from './rig/pieces';

/** How takes are begun and ended, besides by key and button. */
export interface RecordSettings {
  /** The gate that begins a take and ends it, and the scene that does; of whatever rig is open. */
  gate: string | null;
  scene: string | null;
  /** Whether Start and Stop do, of MIDI inputs and of the transport. */
  transport: boolean;
  /** What is counted before a take begins: bars of so many beats, or seconds; 0 for nothing. */
  countIn: { of: 'bars' | 'seconds'; many: number };
  beatsPerBar: number;
  /** Whether beats click where the stand-ins are heard. */
  metronome: boolean;
}

export const DEFAULT_RECORD_SETTINGS: RecordSettings = { gate: null, scene: null, transport: false, countIn: { of: 'bars', many: 0 }, beatsPerBar: 4, metronome: false };

export const recordSettingsSchema = Joi.object<RecordSettings>({
  gate: id.allow(null).required(),
  scene: id.allow(null).required(),
  transport: Joi.boolean().required(),
  countIn: Joi.object({ of: Joi.valid('bars', 'seconds').required(), many: Joi.number().min(0).max(30).required() }).required(),
  beatsPerBar: Joi.number().integer().min(1).max(16).required(),
  metronome: Joi.boolean().required(),
});
