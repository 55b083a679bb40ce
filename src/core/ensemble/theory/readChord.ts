import { Chord, Interval, Note } from 'tonal';
import { NOTE_NAMES } from '../../midi/describe';
import { OCTAVE } from './degrees';

const within = (semitones: number) => ((semitones % OCTAVE) + OCTAVE) % OCTAVE;
const TONES_MOST = 12;

/**
 * A chord that a person writes: by its symbol (`Dm9`, `G7/B`), or by the names of its tones from below (`D F A C`, `D3 A3 F4`).
 * Gives semitones above the tonic, rising, the first within the octave above it; or a sentence where it is neither.
 */
export function readChord(text: string, tonic: number): { ok: true; tones: number[] } | { ok: false; message: string } {
  const words = text.trim().replaceAll('♭', 'b').replaceAll('♯', '#').split(/[\s,]+/).filter(Boolean);
  const symbol = words.length === 1 ? Chord.get(words[0]!) : null;
  if (symbol && !symbol.empty && symbol.tonic) {
    const root = within(Note.chroma(symbol.tonic)! - tonic);
    const tones = symbol.intervals.map((interval) => root + Interval.semitones(interval));
    // What stands behind a stroke lies below all others.
    const bass = symbol.bass ? within(Note.chroma(symbol.bass)! - tonic) : null;
    return { ok: true, tones: bass === null ? tones : [bass, ...tones.filter((tone) => within(tone) !== bass).map((tone) => (tone > bass ? tone : tone + OCTAVE))].sort((a, b) => a - b) };
  }
  const tones: number[] = [];
  for (const word of words) {
    const chroma = Note.chroma(word);
    if (chroma === undefined || Number.isNaN(chroma)) return { ok: false, message: `"${word}" is neither a chord (as Dm9 or G7/B) nor the name of a tone (as D, F#, Bb).` };
    const last = tones.at(-1);
    const next = within(chroma - tonic);
    tones.push(last === undefined ? next : next + OCTAVE * Math.max(0, Math.ceil((last + 1 - next) / OCTAVE)));
  }
  if (tones.length === 0 || tones.length > TONES_MOST) return { ok: false, message: `A chord has 1 to ${TONES_MOST} tones, and this one has ${tones.length}.` };
  return { ok: true, tones };
}

/** Pitches that sound, as a chord above a tonic. */
export function chordOf(pitches: readonly number[], tonic: number): number[] {
  const rising = [...new Set(pitches.map(Math.round))].sort((a, b) => a - b).slice(0, TONES_MOST);
  const [lowest = 0] = rising;
  const base = within(lowest - tonic) - lowest;
  return rising.map((pitch) => pitch + base);
}

/**
 * The names of the tones of a chord above a tonic.
 * @param names by pitch class from C up, as the key writes them
 */
export const tonesInWords = (tones: readonly number[], tonic: number, names: readonly string[] = NOTE_NAMES): string => tones.map((tone) => names[within(tone + tonic)]).join(' ');
