import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Curve } from '../../../core/rig/document';
import { monotoneSegments, pointsCurve, SEGMENT, steppedCurve } from '../../../core/shaping/curve';
import { NumberBox } from '../shared/NumberBox';
import { addPoint, movePoint, removePoint, type CurvePoint } from '../../../core/shaping/curvePoints';
import { useLocked } from '../shared/edit';
import { useDragged } from '../shared/useDragged';
import styles from './CurvePoints.module.css';
import shared from '../shared/shared.module.css';

const SIZE = 300;
const HEIGHT = 170;
const EDGE = 10;
const DRAWN = 100;
const NUDGE = 0.01;

type PointsCurve = Extract<Curve, { kind: 'points' | 'stepped' }>;

interface CurvePointsProps {
  curve: PointsCurve;
  onChange: (points: CurvePoint[]) => void;
}

/** The points of a curve, moved by hand, by arrow keys or by number; a double click makes one, Delete takes one away. */
export function CurvePoints({ curve, onChange }: CurvePointsProps) {
  const locked = useLocked();
  const svg = useRef<SVGSVGElement>(null);
  const dragged = useDragged<{ i: number; points: CurvePoint[] } | null>(null);
  const [last, choose] = useState(0);
  // There may be fewer by now.
  const chosen = Math.min(last, curve.points.length - 1);
  const lastAtEnd = curve.kind === 'points';
  const points = dragged.shown?.points ?? curve.points;
  const at = ([x, y]: CurvePoint) => ({ cx: EDGE + x * (SIZE - 2 * EDGE), cy: HEIGHT - EDGE - y * (HEIGHT - 2 * EDGE) });
  const under = ({ clientX, clientY }: { clientX: number; clientY: number }): CurvePoint => {
    const { left, top, width, height } = svg.current!.getBoundingClientRect();
    return [(((clientX - left) / width) * SIZE - EDGE) / (SIZE - 2 * EDGE), 1 - (((clientY - top) / height) * HEIGHT - EDGE) / (HEIGHT - 2 * EDGE)];
  };
  const drag = (event: PointerEvent) => {
    const now = dragged.now();
    if (now && event.isPrimary) dragged.set({ i: now.i, points: movePoint(now.points, now.i, under(event), lastAtEnd) });
  };
  const drop = ({ isPrimary }: PointerEvent) => {
    if (!isPrimary) return;
    const now = dragged.now();
    if (now) onChange(now.points);
    dragged.set(null);
  };
  const keys = (event: KeyboardEvent, i: number) => {
    const step = event.shiftKey ? 10 * NUDGE : NUDGE;
    const [x, y] = curve.points[i]!;
    const moves: Record<string, CurvePoint> = { ArrowLeft: [x - step, y], ArrowRight: [x + step, y], ArrowUp: [x, y + step], ArrowDown: [x, y - step] };
    const to = moves[event.key];
    if (to) onChange(movePoint(curve.points, i, to, lastAtEnd));
    else if (event.key === 'Delete' || event.key === 'Backspace') onChange(removePoint(curve.points, i, lastAtEnd));
    else return;
    event.preventDefault();
  };
  const [px, py] = curve.points[chosen]!;
  // Between its neighbours; the ends of a curve stay at its ends.
  const [least, most] = [0, 1].map((x) => movePoint(curve.points, chosen, [x, py], lastAtEnd)[chosen]![0]) as [number, number];
  return (
    <div className={styles.curvePoints}>
      <svg
        ref={svg}
        viewBox={`0 0 ${SIZE} ${HEIGHT}`}
        role="group"
        aria-label="Points of the curve"
        onDoubleClick={(event) => !locked && onChange(addPoint(curve.points, under(event)))}
        onPointerMove={drag}
        onPointerUp={drop}
        onPointerCancel={({ isPrimary }) => isPrimary && dragged.set(null)}
      >
        <polyline points={drawn(curve.kind, points).map((point) => Object.values(at(point)).join(',')).join(' ')} />
        {points.map((point, i) => (
          <circle
            key={i}
            {...at(point)}
            r={8}
            tabIndex={locked ? -1 : 0}
            role="button"
            aria-label={`Point ${i + 1} at ${point[0]}, ${point[1]}`}
            data-chosen={i === chosen}
            onFocus={() => choose(i)}
            onKeyDown={(event) => !locked && keys(event, i)}
            onPointerDown={(event) => {
              // A second finger would carry off what the first one holds.
              if (locked || event.button !== 0 || !event.isPrimary) return;
              svg.current?.setPointerCapture(event.pointerId);
              choose(i);
              dragged.set({ i, points: curve.points });
            }}
          />
        ))}
      </svg>
      <span className={shared.pair}>
        <NumberBox label="Point, across" min={least} max={most} step={NUDGE} value={px} onChange={(x) => onChange(movePoint(curve.points, chosen, [x, py], lastAtEnd))} />
        ,
        <NumberBox label="Point, up" min={0} max={1} step={NUDGE} value={py} onChange={(y) => onChange(movePoint(curve.points, chosen, [px, y], lastAtEnd))} />
      </span>
    </div>
  );
}

/** The line of the curve, as the engine would play it. */
function drawn(kind: PointsCurve['kind'], points: readonly CurvePoint[]): CurvePoint[] {
  if (kind === 'stepped') {
    const flat = Float64Array.from(points.flat());
    return Array.from({ length: 4 * DRAWN + 1 }, (_, i) => [i / (4 * DRAWN), steppedCurve(flat, 0, points.length, i / (4 * DRAWN))]);
  }
  const coefficients = new Float64Array((points.length - 1) * SEGMENT);
  monotoneSegments(points, coefficients, 0);
  return Array.from({ length: DRAWN + 1 }, (_, i) => [i / DRAWN, pointsCurve(coefficients, 0, points.length - 1, i / DRAWN)]);
}
