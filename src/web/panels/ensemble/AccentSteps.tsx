import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { clamp } from '../../../core/units/unitInterval';
import { digitOf } from '../../live/keys';
import { useLocked } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { useDragged } from '../shared/useDragged';
import styles from './ensemble.module.css';

const ACCENTS_MOST = 64;
const STEP = 0.05;

/** How hard each step of an arpeggio is, over and over; none: all alike. A pointer draws them, arrows go on and up and down, 1 to 9 say how hard. */
export function AccentSteps({ accents: kept, onChange }: { accents: readonly number[]; onChange: (accents: number[]) => void }) {
  const [chosen, choose] = useState(0);
  const drawn = useDragged<readonly number[] | null>(null);
  const pointer = useRef<{ across: number; accent: number } | null>(null);
  const accents = drawn.shown ?? kept;
  const withAccent = (step: number, accent: number) => (drawn.now() ?? kept).with(step, Math.round(clamp(accent, 0, 1) * 100) / 100);
  const locked = useLocked();
  const put = (step: number, accent: number) => !locked && onChange(withAccent(step, accent));
  const draw = (event: PointerEvent<HTMLElement>) => {
    if (locked || event.buttons !== 1 || !event.isPrimary) return;
    const box = event.currentTarget.getBoundingClientRect();
    const across = ((event.clientX - box.left) / box.width) * accents.length;
    const isWithin = across >= 0 && across < accents.length;
    if (!isWithin && !pointer.current) return;
    const to = { across: clamp(across, 0, accents.length - 0.001), accent: 1 - (event.clientY - box.top) / box.height };
    // A quick pointer is seen only here and there: the steps between lie on a straight line.
    const from = pointer.current ?? to;
    pointer.current = isWithin ? to : null;
    const [first, last] = [Math.floor(from.across), Math.floor(to.across)];
    for (let step = first; ; step += Math.sign(last - first)) {
      const share = step === last ? 1 : clamp((step + 0.5 - from.across) / (to.across - from.across), 0, 1);
      drawn.set(withAccent(step, from.accent + share * (to.accent - from.accent)));
      if (step === last) return;
    }
  };
  const begin = (event: PointerEvent<HTMLElement>) => {
    if (!event.isPrimary) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    pointer.current = null;
    draw(event);
  };
  const end = ({ isPrimary }: PointerEvent) => {
    if (!isPrimary) return;
    const accented = drawn.now();
    if (accented) onChange([...accented]);
    drawn.set(null);
  };
  const press = (event: KeyboardEvent<HTMLElement>, step: number) => {
    const digit = digitOf(event);
    const to = { ArrowUp: accents[step]! + STEP, ArrowDown: accents[step]! - STEP, Home: 0, End: 1 }[event.key] ?? (digit ? digit / 9 : null);
    const along = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (to === null && along === undefined) return;
    event.preventDefault();
    if (to !== null) put(step, to);
    else event.currentTarget.parentElement!.querySelector<HTMLElement>(`[data-step="${(step + along! + accents.length) % accents.length}"]`)?.focus();
  };
  return (
    <>
      <Field label="Accents">
        <NumberBox label="Steps with accents, 0 for all alike" min={0} max={ACCENTS_MOST} whole value={accents.length} onChange={(length) => onChange(Array.from({ length }, (_, i) => accents[i] ?? 1))} />
      </Field>
      {accents.length > 0 && (
        <div className={styles.accents} role="group" aria-label="How hard each step is" onPointerDown={begin} onPointerMove={draw} onPointerUp={end} onPointerCancel={({ isPrimary }) => isPrimary && drawn.set(null)}>
          {accents.map((accent, step) => (
            <div
              key={step}
              role="slider"
              aria-label={`Accent ${step + 1}`}
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={Math.round(accent * 100)}
              aria-valuetext={`${Math.round(accent * 100)} percent`}
              aria-disabled={locked}
              tabIndex={step === Math.min(chosen, accents.length - 1) ? 0 : -1}
              data-step={step}
              onFocus={() => choose(step)}
              onKeyDown={(event) => press(event, step)}
            >
              <i style={{ height: `${accent * 100}%` }} />
            </div>
          ))}
        </div>
      )}
    </>
  );
}
