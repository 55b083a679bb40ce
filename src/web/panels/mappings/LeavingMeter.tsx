import { useEffect, useRef } from 'react';
import { fullness, leaving } from '../../../core/mapping/words';
import type { RigMapping } from '../../../core/rig/document';
import { useLive } from '../../live/LiveProvider';

/** How long a meter stays lit after it moved. */
const LIT_MS = 400;

/** What leaves a mapping now, as a bar and in the message's own number. */
export function LeavingMeter({ mapping }: { mapping: RigMapping }) {
  const live = useLive();
  const meter = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLSpanElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const { id, message, on } = mapping;
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = (level: number) => {
      bar.current!.style.transform = `scaleX(${fullness(message, level)})`;
      number.current!.textContent = String(leaving(message, level));
    };
    const first = live.mappingLevel(id);
    if (first !== undefined) show(first);
    const remove = live.onMapping(id, (level) => {
      show(level);
      meter.current!.dataset.alive = 'true';
      clearTimeout(timer);
      timer = setTimeout(() => {
        if (meter.current) meter.current.dataset.alive = 'false';
      }, LIT_MS);
    });
    return () => {
      clearTimeout(timer);
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
