import { useMemo } from 'react';
import type { Calibration, RigSignal } from '../../../core/rig/document';
import { calibrated, withoutNoise } from '../../../core/signal/calibration';
import styles from './CalibrationPicture.module.css';
import beforeAfter from '../mappings/BeforeAfter.module.css';

const WIDTH = 300;
const HEIGHT = 54;
const POINTS = 200;

/** What was captured before (quiet) and after the calibration (accent), over the nominal range. */
export function CalibrationPicture({ signal, calibration, raw }: { signal: RigSignal; calibration: Calibration; raw: readonly number[] }) {
  const { range, rest, period } = signal;
  const lines = useMemo(() => {
    const [lo, hi] = range;
    const planned = { ...calibration, lo, hi, rest: rest ?? null, period: period ?? null };
    let held = NaN;
    const after = raw.map((value) => calibrated(planned, (held = withoutNoise(planned, value, held))));
    const line = (values: readonly number[]) => {
      const every = Math.max(1, Math.floor(values.length / POINTS));
      const y = (value: number) => 2 + (1 - Math.max(0, Math.min(1, (value - lo) / (hi - lo || 1)))) * (HEIGHT - 4);
      return values
        .filter((_, i) => i % every === 0)
        .map((value, i, all) => `${((i / Math.max(1, all.length - 1)) * WIDTH).toFixed(1)},${y(value).toFixed(1)}`)
        .join(' ');
    };
    return { before: line(raw), after: line(after) };
  }, [range, rest, period, calibration, raw]);
  if (raw.length === 0) return null;
  return (
    <svg className={styles.calibrationPicture} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={`${signal.name} before and after`}>
      <polyline className={styles.before} points={lines.before} />
      <polyline className={beforeAfter.after} points={lines.after} />
    </svg>
  );
}
