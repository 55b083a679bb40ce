import type { TakeSummary } from '../../../protocol/takes';
import styles from './takes.module.css';

const [WIDTH, HEIGHT] = [240, 34];

/** A take so small that it fits beneath its name. */
export function SketchPicture({ sketch, marks, lengthMs }: Pick<TakeSummary, 'sketch' | 'marks' | 'lengthMs'>) {
  const curve = sketch?.curve ?? [];
  const points = curve.flatMap((value, i) => (value === null ? [] : [`${(((i + 0.5) * WIDTH) / curve.length).toFixed(1)},${(HEIGHT - 2 - value * (HEIGHT - 4)).toFixed(1)}`]));
  return (
    <svg className={styles.sketch} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" aria-hidden>
      {points.length > 1 && <polyline points={points.join(' ')} />}
      {sketch?.notes.map(([from, to, height], i) => (
        <rect key={i} x={from * WIDTH} y={HEIGHT - 4 - height * (HEIGHT - 7)} width={Math.max(1.2, (to - from) * WIDTH)} height={2.2} />
      ))}
      {marks.map(({ atMs }, i) => (
        <line key={i} x1={(atMs / Math.max(1, lengthMs)) * WIDTH} x2={(atMs / Math.max(1, lengthMs)) * WIDTH} y1={0} y2={HEIGHT} />
      ))}
    </svg>
  );
}
