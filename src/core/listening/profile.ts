import { referenceShift } from '../voices/pitch';
import { MODES, pitchesOf, type Scale } from '../voices/scale';
import { LISTENER_SETTINGS, type ListenerSettings } from './listener';
import type { TaughtSound } from './mouth/taughtSounds';
import { teachVowels } from './vowels/taughtVowels';

/** How somebody is heard by a microphone: what was measured, chosen and taught. Plain data, kept. */
export interface Profile {
  name: string;
  /** The scale that notes are of; null: any pitch is one. */
  scale: Exclude<Scale, { kind: 'kept' }> | null;
  referenceHz: number;
  octave: number;
  /** Keys that notes may have before the octave, both included. */
  range: { low: number; high: number };
  /** What is less like itself a period ago is no pitch, 0.8 to 0.99. */
  clarity: number;
  snaps: boolean;
  bends: boolean;
  glides: boolean;
  holdCents: number;
  leastMs: number;
  dipDb: number;
  gateDb: number;
  softDb: number;
  loudDb: number;
  floorDb: number;
  /** How fast the signal of loudness rises and falls. */
  attackMs: number;
  releaseMs: number;
  /** From a click that is played to its onset here, measured by a loop; null where it was not. */
  loopMs: number | null;
  /** By degree of the scale, from its root: the notes that sound with it, in semitones above it; negative ones lie beneath. */
  chords: number[][];
  vowels: { name: string; examples: number[][] }[];
  sounds: TaughtSound[];
}

export const VOWELS_MOST = 5;
export const EXAMPLES_OF_A_VOWEL = 60;
export const EXAMPLES_OF_A_SOUND = 10;

const { notes, softDb, loudDb, floorDb } = LISTENER_SETTINGS;

export const FRESH_PROFILE: Profile = {
  name: 'Lookout',
  scale: { kind: 'mode', root: 0, mode: 'chromatic' },
  referenceHz: 440,
  octave: 0,
  range: { low: 24, high: 96 },
  clarity: notes.clarity,
  snaps: false,
  bends: true,
  glides: false,
  holdCents: notes.holdCents,
  leastMs: notes.leastMs,
  dipDb: notes.dipDb,
  gateDb: notes.gateDb,
  softDb,
  loudDb,
  floorDb,
  attackMs: 0,
  releaseMs: 80,
  loopMs: null,
  chords: [],
  vowels: [],
  sounds: [],
};

const SEMITONES = 12;

/** By semitone above C: the notes that sound with it. Chords belong to degrees, and notes lie on them. */
function chordsByClass({ scale, chords }: Profile): number[][] | null {
  if (scale?.kind !== 'mode' || chords.every((chord) => chord.length === 0)) return null;
  const byClass = Array.from({ length: SEMITONES }, (): number[] => []);
  MODES[scale.mode].forEach((step, degree) => (byClass[(scale.root + step) % SEMITONES] = chords[degree] ?? []));
  return byClass;
}

/** What a listener is set to by a profile. */
export function settingsOf(profile: Profile): ListenerSettings {
  const { scale, referenceHz, octave, range, clarity, snaps, bends, glides, holdCents, leastMs, dipDb, gateDb, vowels, sounds } = profile;
  // What is sung counts 69 at 440 Hz; without a scale nothing is moved.
  const pitches = scale ? pitchesOf(scale, referenceHz, null) : new Float64Array(0);
  const taught = teachVowels(new Map(vowels.map(({ name, examples }) => [name, examples.map((features) => Float64Array.from(features))])));
  return {
    notes: { pitches, gateDb, holdCents, leastMs, dipDb, glides, clarity, low: range.low - 0.5, high: range.high + 0.5 },
    shift: octave * SEMITONES - (scale && snaps ? referenceShift(referenceHz) : 0),
    snaps,
    bends,
    softDb: profile.softDb,
    loudDb: profile.loudDb,
    floorDb: profile.floorDb,
    chords: scale ? chordsByClass(profile) : null,
    vowels: taught.vowels.length > 0 ? taught : null,
    sounds,
  };
}
