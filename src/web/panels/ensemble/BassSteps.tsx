import { useState, type KeyboardEvent } from 'react';
import { BASS_TONES, type PartOf } from '../../../core/ensemble/parts';
import { EditPlainButton } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import styles from './ensemble.module.css';

type Tone = PartOf<'bass'>['tones'][number];

export const BASS_STEPS_MOST = 64;
/** From high to low, as they are drawn. */
const ROWS = BASS_TONES.filter((tone) => tone !== 'rest').reverse();

/** What a bass plays step by step: one tone of the chord each, or a rest. A click or Space puts a tone or takes it away; arrows go from one to the next. */
export function BassSteps({ tones, onChange }: { tones: readonly Tone[]; onChange: (tones: Tone[]) => void }) {
  const [place, setPlace] = useState({ row: ROWS.length - 1, step: 0 });
  const here = { row: place.row, step: Math.min(place.step, tones.length - 1) };
  const put = (step: number, tone: Tone) => onChange(tones.with(step, tones[step] === tone ? 'rest' : tone));
  const go = (event: KeyboardEvent<HTMLElement>) => {
    const way = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[event.key];
    if (!way) return;
    event.preventDefault();
    const [row, step] = [(here.row + way[0]! + ROWS.length) % ROWS.length, (here.step + way[1]! + tones.length) % tones.length];
    event.currentTarget.querySelector<HTMLElement>(`[data-row="${row}"][data-step="${step}"]`)?.focus();
  };
  return (
    <>
      <Field label="Steps">
        <NumberBox label="Steps of the bass" min={1} max={BASS_STEPS_MOST} whole value={tones.length} onChange={(length) => onChange(Array.from({ length }, (_, i) => tones[i % tones.length]!))} />
      </Field>
      <div className={styles.tones} role="group" aria-label="What the bass plays" onKeyDown={go}>
        {ROWS.map((tone, row) => (
          <div key={tone}>
            <span>{tone}</span>
            {tones.map((played, step) => (
              <EditPlainButton key={step} type="button" data-row={row} data-step={step} tabIndex={row === here.row && step === here.step ? 0 : -1} aria-pressed={played === tone} aria-label={`Step ${step + 1}, ${tone}`} onFocus={() => setPlace({ row, step })} onClick={() => put(step, tone)} />
            ))}
          </div>
        ))}
      </div>
    </>
  );
}
