import { useEffect, useRef, useState } from 'react';
import { STAND_IN_ASPECT } from '../../core/standIn/gulls';
import { useLatest } from '../useLatest';
import styles from './hands.module.css';
import type { MovedTo } from './messages';

const FIRST: MovedTo = { x: 0.5, y: 0.5, closed: 0, pinched: 0, turned: 0, size: 0.22 };
const STEP = 0.02;
const SLIDERS = [
  ['closed', 'Closed', 0, 1],
  ['pinched', 'Pinched', 0, 1],
  ['turned', 'Turned', 0, 1],
  ['size', 'Near', 0.08, 0.4],
] as const;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

interface MoveHandProps {
  mirrored: boolean;
  /** Null: it is taken away. */
  onMove: (to: MovedTo | null) => void;
}

/** A hand that is moved on screen, by dragging or by arrow keys, closed, pinched and turned by sliders. */
export function MoveHand({ mirrored, onMove }: MoveHandProps) {
  const [to, setTo] = useState(FIRST);
  const [isThere, setThere] = useState(true);
  const area = useRef<HTMLDivElement>(null);
  const latest = useLatest(onMove);
  useEffect(() => latest.current(isThere ? to : null), [to, isThere, latest]);
  const put = (set: Partial<MovedTo>) => setTo((now) => ({ ...now, ...set }));
  const drag = ({ clientX, clientY, buttons, currentTarget }: React.PointerEvent<HTMLDivElement>) => {
    if (buttons === 0) return;
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    const [w, h] = width / height > STAND_IN_ASPECT ? [height * STAND_IN_ASPECT, height] : [width, width / STAND_IN_ASPECT];
    const inPicture = (clientX - left - (width - w) / 2) / w;
    put({ x: within(mirrored ? inPicture : 1 - inPicture), y: within(1 - (clientY - top - (height - h) / 2) / h) });
  };
  return (
    <>
      <div
        ref={area}
        className={styles.move}
        role="application"
        aria-label="The hand: drag it, or move it by the arrow keys"
        tabIndex={0}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drag(event);
        }}
        onPointerMove={drag}
        onKeyDown={(event) => {
          const by = ARROWS[event.key];
          if (!by) return;
          event.preventDefault();
          setTo((now) => ({ ...now, x: within(now.x + (mirrored ? by[0] : -by[0]) * STEP), y: within(now.y + by[1] * STEP) }));
        }}
      />
      <div className={styles.sliders}>
        {SLIDERS.map(([key, label, min, max]) => (
          <label key={key}>
            {label}
            <input type="range" min={min} max={max} step={0.01} value={to[key]} onChange={({ target }) => put({ [key]: Number(target.value) })} />
          </label>
        ))}
        <label>
          There
          <input type="checkbox" checked={isThere} onChange={({ target }) => setThere(target.checked)} />
        </label>
      </div>
    </>
  );
}

const within = (share: number) => Math.min(1, Math.max(0, share));
