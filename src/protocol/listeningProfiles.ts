import Joi from 'joi';
import { SOUND_FEATURES } from '../core/listening/mouth/soundFeatures';
import { SOUNDS_MOST } from '../core/listening/mouth/taughtSounds';
import { EXAMPLES_OF_A_SOUND, EXAMPLES_OF_A_VOWEL, VOWELS_MOST, type Profile } from '../core/listening/profile';
import { VOWEL_FEATURES } from '../core/listening/vowels/vowelFeatures';
import { MODE_NAMES } from '../core/voices/scale';
import { LIMITS } from './limits';
import { finite, name, sevenBit } from './rig/pieces';
import { scaleCents } from './rig/voices';

/** The profiles of everybody who sings or drums here, whatever rig is open. */
export interface ListeningProfiles {
  profiles: Profile[];
}

const db = finite.min(-120).max(0).required();
const examples = (length: number, most: number) => Joi.array().items(Joi.array().items(finite.min(-1e4).max(1e4)).length(length)).max(most).required();
const taught = Joi.string().min(1).max(LIMITS.taughtNameLength).required();
const chord = Joi.array().items(Joi.number().integer().min(-24).max(24)).max(LIMITS.chordNotes);
const root = Joi.number().integer().min(0).max(11).required();

const modeScale = Joi.object({ kind: Joi.valid('mode').required(), root, mode: Joi.valid(...MODE_NAMES).required() });
const stepScale = Joi.object({ kind: Joi.valid('steps').required(), root, cents: scaleCents.required() });

const profile = Joi.object<Profile>({
  name: name.required(),
  scale: Joi.alternatives(modeScale, stepScale).allow(null).required(),
  referenceHz: finite.min(220).max(880).required(),
  octave: Joi.number().integer().min(-4).max(4).required(),
  range: Joi.object({ low: sevenBit.required(), high: sevenBit.min(Joi.ref('low')).required() }).required(),
  clarity: finite.min(0.8).max(0.99).required(),
  snaps: Joi.boolean().required(),
  bends: Joi.boolean().required(),
  glides: Joi.boolean().required(),
  holdCents: finite.min(0).max(200).required(),
  leastMs: finite.min(5).max(160).required(),
  dipDb: finite.min(2).max(40).required(),
  gateDb: db,
  softDb: db,
  loudDb: db,
  floorDb: db,
  attackMs: finite.min(0).max(5000).required(),
  releaseMs: finite.min(0).max(5000).required(),
  loopMs: finite.min(0).max(1000).allow(null).required(),
  chords: Joi.array().items(chord).max(LIMITS.chordDegrees).required(),
  vowels: Joi.array().items(Joi.object({ name: taught, examples: examples(VOWEL_FEATURES, EXAMPLES_OF_A_VOWEL) })).unique('name').max(VOWELS_MOST).required(),
  sounds: Joi.array().items(Joi.object({ name: taught, examples: examples(SOUND_FEATURES, EXAMPLES_OF_A_SOUND) })).unique('name').max(SOUNDS_MOST).required(),
});

export const listeningProfilesSchema = Joi.object<ListeningProfiles>({ profiles: Joi.array().items(profile).unique('name').min(1).max(LIMITS.listeningProfiles).required() });
