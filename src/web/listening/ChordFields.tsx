import { Select } from 'antd';
import { namesIn } from '../../core/ensemble/theory/spelling';
import type { Profile } from '../../core/listening/profile';
import { MODES } from '../../core/voices/scale';
import { Field } from '../panels/shared/Field';
import { TextField } from '../panels/shared/TextField';
import styles from '../theme/devicePage.module.css';

/** Notes above the sung one, in semitones; an inversion has some of them beneath. Triads of thirds, as any textbook of harmony has them. */
const CHORDS: Readonly<Record<string, number[]>> = {
  'single note': [],
  'major': [4, 7],
  'minor': [3, 7],
  'diminished': [3, 6],
  'major, 1st inversion': [-8, -5],
  'minor, 1st inversion': [-9, -5],
  'major, 2nd inversion': [4, -5],
  'minor, 2nd inversion': [3, -5],
  'fifth': [7],
  'octave beneath': [-12],
  'seventh': [4, 7, 10],
  'minor seventh': [3, 7, 10],
  'major seventh': [4, 7, 11],
};
const OWN = 'my own';
const NOTES_MOST = 6;
const FURTHEST = 24;

/** The chord of each degree of the scale: a sung note brings it along. */
export function ChordFields({ profile, onChange }: { profile: Profile; onChange: (set: Partial<Profile>) => void }) {
  const { scale, chords } = profile;
  if (scale?.kind !== 'mode') return null;
  const names = namesIn(scale.root, scale.mode);
  const set = (degree: number, chord: number[]) => onChange({ chords: MODES[scale.mode].map((_, i) => (i === degree ? chord : (chords[i] ?? []))) });
  return (
    <fieldset className={styles.part}>
      <legend>Chords</legend>
      <details>
        <summary className={styles.summary}>{chords.some((chord) => chord.length > 0) ? 'A chord to each degree' : 'Single notes'}</summary>
        {MODES[scale.mode].map((step, degree) => {
          const chord = chords[degree] ?? [];
          const known = Object.entries(CHORDS).find(([, notes]) => notes.join() === chord.join())?.[0] ?? OWN;
          const name = names[(scale.root + step) % names.length]!;
          return (
            <div key={step}>
              <Field label={`On ${name}`}>
                <Select aria-label={`Chord on ${name}`} value={known} options={[...Object.keys(CHORDS), OWN].map((value) => ({ value, label: value }))} onChange={(chosen) => chosen !== OWN && set(degree, CHORDS[chosen]!)} />
              </Field>
              {known !== 'single note' && (
                <Field label="Semitones above">
                  <TextField label={`Semitones above ${name}`} maxLength={60} value={chord.join(' ')} parse={semitonesFrom} onChange={(notes) => set(degree, notes)} />
                </Field>
              )}
            </div>
          );
        })}
      </details>
    </fieldset>
  );
}

/** Throws a sentence where the text is no semitones. */
function semitonesFrom(text: string): number[] {
  const notes = text.split(/\s+/).filter((word) => word !== '').map(Number);
  if (notes.length > NOTES_MOST || notes.some((note) => !Number.isInteger(note) || Math.abs(note) > FURTHEST)) throw new Error(`“${text}” is not up to ${NOTES_MOST} whole semitones from -${FURTHEST} to ${FURTHEST}, as 4 7: nothing was changed.`);
  return notes;
}
