import { MODES, type Mode } from '../../voices/scale';

/** Scales of seven tones: chords are built on their degrees by thirds. */
export const HARMONIC_MODES = ['major', 'minor', 'harmonic minor', 'melodic minor', 'dorian', 'phrygian', 'lydian', 'mixolydian', 'locrian'] as const satisfies readonly Mode[];
export type HarmonicMode = (typeof HARMONIC_MODES)[number];
export const DEGREES = 7;
export const OCTAVE = 12;

/** A degree of a scale, from 1 on, in semitones above the tonic; the eighth is the first an octave higher. */
export function stepOf(mode: HarmonicMode, degree: number): number {
  const from0 = degree - 1;
  const octave = Math.floor(from0 / DEGREES);
  return MODES[mode][from0 - octave * DEGREES]! + octave * OCTAVE;
}

/**
 * The chord of a degree by stacked thirds, every other tone of the scale, in semitones above the tonic (tertian harmony, as any
 * textbook of harmony builds triads to thirteenths).
 */
export function stackedThirds(mode: HarmonicMode, degree: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => stepOf(mode, degree + 2 * i));
}

/** The degree, from 1 to 7, whose tone lies nearest to a pitch in any octave; of two equally near the lower. */
export function nearestDegree(tonic: number, mode: HarmonicMode, pitch: number): number {
  const above = (((pitch - tonic) % OCTAVE) + OCTAVE) % OCTAVE;
  let best = 1;
  let least = Infinity;
  MODES[mode].forEach((step, i) => {
    const away = Math.abs(above - step);
    const distance = Math.min(away, OCTAVE - away);
    if (distance < least) {
      least = distance;
      best = i + 1;
    }
  });
  return best;
}
