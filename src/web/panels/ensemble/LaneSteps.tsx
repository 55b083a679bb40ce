import { memo, type KeyboardEvent } from 'react';
import type { Hit, Lane } from '../../../core/ensemble/parts';
import { useLocked } from '../shared/edit';
import styles from './ensemble.module.css';

export interface Place {
  lane: number;
  step: number;
}

interface LaneStepsProps {
  lane: Lane;
  place: number;
  everyBeats: number;
  /** The step that is played now, -1 for none. */
  now: number;
  chosen: number;
  onChoose: (step: number) => void;
  onPut: (step: number, hit: Partial<Hit> | null) => void;
}

/** The steps of a lane as wells that stand as full as they are struck hard. Arrows go from one to the next, Space turns one, 1 to 9 say how hard. */
export const LaneSteps = memo(function LaneSteps({ lane, place, everyBeats, now, chosen, onChoose, onPut }: LaneStepsProps) {
  const locked = useLocked();
  const perBeat = Math.max(1, Math.round(1 / everyBeats));
  const press = (event: KeyboardEvent<HTMLButtonElement>, step: number, hit: Hit | undefined) => {
    const go = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[event.key];
    if (go) {
      event.preventDefault();
      const [down, along] = go as [number, number];
      const grid = event.currentTarget.closest('[data-lanes]')!;
      grid.querySelector<HTMLElement>(`[data-lane="${place + down}"][data-step="${along === 0 ? step : (step + along + lane.length) % lane.length}"]`)?.focus();
    } else if (event.key === ' ' || event.key === 'Enter') {
      event.preventDefault();
      if (!locked) onPut(step, hit ? null : {});
    } else if (/^[1-9]$/.test(event.key) && !locked) onPut(step, { strike: Number(event.key) / 9 });
    else if ((event.key === 'Delete' || event.key === 'Backspace') && !locked) onPut(step, null);
  };
  return (
    <div className={styles.steps}>
      {Array.from({ length: lane.length }, (_, step) => {
        const hit = lane.hits.find(({ at }) => at === step);
        return (
          <button
            key={step}
            type="button"
            aria-pressed={hit !== undefined}
            tabIndex={step === Math.min(Math.max(0, chosen), lane.length - 1) ? 0 : -1}
            className={styles.step}
            data-lane={place}
            data-step={step}
            data-on={hit !== undefined}
            data-beat={step % perBeat === 0}
            data-now={step === now}
            data-chosen={step === chosen}
            aria-label={`${lane.name}, step ${step + 1}${hit ? `, ${Math.round(hit.strike * 100)} percent${hit.chance === undefined ? '' : `, chance ${Math.round(hit.chance * 100)} percent`}${hit.times ? `, ${hit.times} times` : ''}` : ', rest'}`}
            onFocus={() => onChoose(step)}
            onKeyDown={(event) => press(event, step, hit)}
          >
            {hit && <i style={{ height: `${Math.max(12, hit.strike * 100)}%`, opacity: hit.chance === undefined ? 1 : 0.35 + 0.5 * hit.chance }} />}
            {hit?.times !== undefined && hit.times > 1 && <b aria-hidden>{hit.times}</b>}
          </button>
        );
      })}
    </div>
  );
});
