import { useEffect, useRef } from 'react';
import { fullness, leaving } from '../../../core/mapping/words';
import type { RigMapping } from '../../../core/rig/document';
import { useLive } from '../../live/LiveProvider';
import { addPainter } from '../../live/painter';

/** How long a meter stays lit after it moved. */
const LIT_MS = 400;
/** Figures that change more often than this are a blur. */
const FIGURE_MS = 100;

/** What leaves a mapping now, as a bar and in the message's own number. */
export function LeavingMeter({ mapping }: { mapping: RigMapping }) {
  const live = useLive();
  const meter = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLSpanElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const { id, message, on } = mapping;
  useEffect(() => {
    let heardMs = -Infinity;
    let figureMs = -Infinity;
    const painter = addPainter((nowMs) => {
      const level = live.mappingLevel(id);
      if (level === undefined || !meter.current) return;
      bar.current!.style.transform = `scaleX(${fullness(message, level).toFixed(3)})`;
      meter.current.dataset.alive = String(nowMs - heardMs < LIT_MS);
      if (nowMs - figureMs < FIGURE_MS && nowMs - heardMs < LIT_MS) return;
      figureMs = nowMs;
      const figure = String(leaving(message, level));
      if (number.current!.textContent !== figure) number.current!.textContent = figure;
    }, true);
    const remove = live.onMapping(id, () => {
      heardMs = performance.now();
      painter.wake(LIT_MS + FIGURE_MS);
    });
    return () => {
      painter.remove();
      remove();
    };
  }, [live, id, message]);
  return (
    <div ref={meter} className="leaving" data-off={!on}>
      <span className="bar">
        <span ref={bar} />
      </span>
      <span ref={number} className="value">
        –
      </span>
    </div>
  );
}
