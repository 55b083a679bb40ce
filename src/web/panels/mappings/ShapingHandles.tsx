import { useMemo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { RigDerived, RigMapping, RigSignal, Shaping } from '../../../core/rig/document';
import { handlesOf, moveHandle, type HandleKey } from '../../../core/shaping/handles';
import { PICTURE_EDGE_PX } from '../../pictures/drawTransfer';
import { EditPlainButton } from '../shared/edit';
import { Pictured } from '../shared/Pictured';
import { useDragged } from '../shared/useDragged';
import styles from './ShapingHandles.module.css';

/** While a handle is dragged what it makes is heard at most this often. */
const HEARD_MS = 120;
/** An arrow key moves a handle by this share of the range; with Shift ten times as far. */
const NUDGE = 0.01;

interface ShapingHandlesProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
  onChange: (shaping: Shaping) => void;
}

/** The picture of a mapping with its range ends and dead zone to be taken by hand or by arrow keys. */
export function ShapingHandles({ mapping, signal, onChange }: ShapingHandlesProps) {
  const box = useRef<HTMLDivElement>(null);
  const dragged = useDragged<{ key: HandleKey; shaping: Shaping } | null>(null);
  const saidMs = useRef(-Infinity);
  const shaping = dragged.shown?.shaping ?? mapping.shaping;
  const picture = useMemo(() => ({ kind: 'shaping' as const, mapping: { ...mapping, shaping }, signal }), [mapping, shaping, signal]);
  const [lo, hi] = signal.range;
  const width = hi - lo;
  const paired = 'pair' in signal && signal.pair !== undefined;
  const under = (event: PointerEvent) => {
    const { left, width: pixels } = box.current!.getBoundingClientRect();
    return lo + ((event.clientX - left - PICTURE_EDGE_PX) / (pixels - 2 * PICTURE_EDGE_PX)) * width;
  };
  const drag = (event: PointerEvent) => {
    const now = dragged.now();
    if (!now || !event.isPrimary) return;
    const next = moveHandle(now.shaping, signal.range, now.key, under(event), paired);
    dragged.set({ ...now, shaping: next });
    if (event.timeStamp - saidMs.current < HEARD_MS) return;
    saidMs.current = event.timeStamp;
    onChange(next);
  };
  const drop = ({ isPrimary }: PointerEvent) => {
    if (!isPrimary) return;
    const now = dragged.now();
    if (now && now.shaping !== mapping.shaping) onChange(now.shaping);
    dragged.set(null);
  };
  const press = (event: KeyboardEvent, key: HandleKey, value: number) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (way === undefined) return;
    event.preventDefault();
    onChange(moveHandle(mapping.shaping, signal.range, key, value + way * width * NUDGE * (event.shiftKey ? 10 : 1), paired));
  };
  return (
    <div ref={box} className={styles.shapingHandles} onPointerMove={drag} onPointerUp={drop} onPointerCancel={({ isPrimary }) => isPrimary && dragged.set(null)}>
      <Pictured className={styles.shapingPicture} picture={picture} />
      {handlesOf(shaping, signal.range, paired).map(({ key, label, value }) => {
        const share = Math.min(Math.max((value - lo) / width, 0), 1);
        return (
          <EditPlainButton
            key={key}
            type="button"
            role="slider"
            className={styles.pictureHandle}
            data-key={key}
            data-dragged={dragged.shown?.key === key}
            style={{ left: `calc(${PICTURE_EDGE_PX}px + ${share} * (100% - ${2 * PICTURE_EDGE_PX}px))` }}
            aria-label={`${label}, by hand`}
            aria-valuemin={Math.min(lo, hi)}
            aria-valuemax={Math.max(lo, hi)}
            aria-valuenow={Number(value.toPrecision(4))}
            onKeyDown={(event) => press(event, key, value)}
            onPointerDown={(event) => {
              // A second finger would carry off what the first one holds.
              if (event.button !== 0 || !event.isPrimary) return;
              box.current!.setPointerCapture(event.pointerId);
              dragged.set({ key, shaping: mapping.shaping });
            }}
          />
        );
      })}
    </div>
  );
}
