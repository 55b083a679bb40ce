import type { Hit, Lane } from '../../../core/ensemble/parts';
import { STEPS_MOST } from '../../../core/ensemble/kinds/pattern';
import { NumberBox } from '../shared/NumberBox';
import styles from './ensemble.module.css';

/** How the chosen step is struck: how hard, how long, with what chance, how often within the step. */
export function HitFields({ lane, at, onPut }: { lane: Lane; at: number; onPut: (hit: { [K in keyof Hit]?: Hit[K] | undefined }) => void }) {
  const hit = lane.hits.find((known) => known.at === at);
  if (!hit) return <p className={styles.said}>{`${lane.name}, step ${at + 1}: a rest. Space or a click turns it.`}</p>;
  return (
    <div className={styles.hit} role="group" aria-label={`Step ${at + 1} of ${lane.name}`}>
      <strong>{`${lane.name}, step ${at + 1}`}</strong>
      <label>
        Strike (%)
        <NumberBox label="Strike of the step in percent" min={1} max={100} whole value={Math.round(hit.strike * 100)} onChange={(strike) => onPut({ strike: strike / 100 })} />
      </label>
      <label>
        Lasts (steps)
        <NumberBox label="Lasts so many steps" min={0.05} max={STEPS_MOST} step={0.25} value={hit.lasts} onChange={(lasts) => onPut({ lasts })} />
      </label>
      <label>
        Chance (%)
        <NumberBox label="Chance of the step in percent" min={0} max={100} whole value={Math.round((hit.chance ?? 1) * 100)} onChange={(chance) => onPut({ chance: chance === 100 ? undefined : chance / 100 })} />
      </label>
      <label>
        Times
        <NumberBox label="Times within the step" min={1} max={8} whole value={hit.times ?? 1} onChange={(times) => onPut({ times: times === 1 ? undefined : times })} />
      </label>
    </div>
  );
}
