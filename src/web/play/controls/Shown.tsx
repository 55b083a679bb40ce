import { useLayoutEffect, useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import type { Scale } from '../../../core/surface/captions';
import { usePlaying } from '../PlayContext';
import { Shell } from './Shell';

const RING = 40;
const SWEEP = 0.75;

/** Before the page knows better. */
const PLAIN: Scale = { unit: 'unit', lo: 0, hi: 1 };

/** A signal that comes back: as a number, as a bar, as an arc. Fingers do nothing to it. */
export function Shown({ control }: { control: ControlOf<'readout' | 'meter' | 'ring'> }) {
  const { live, scales } = usePlaying();
  const { kind, shows } = control;
  const element = useRef<HTMLDivElement>(null);
  const scale = shows === null ? undefined : scales[shows];
  const { unit, lo, hi } = scale ?? PLAIN;
  useLayoutEffect(() => {
    const draw = (value: number) => {
      const share = hi === lo ? 0 : Math.min(1, Math.max(0, (value - lo) / (hi - lo)));
      const shell = element.current!;
      if (kind === 'readout') shell.querySelector('.number')!.textContent = unit === 'unit' ? String(Math.round(share * 127)) : `${value.toFixed(Math.abs(hi - lo) < 10 ? 2 : 0)} ${unit}`;
      else if (kind === 'meter') (shell.querySelector('.water') as HTMLElement).style.transform = `scaleY(${share})`;
      else (shell.querySelector('.arc') as SVGCircleElement).style.strokeDasharray = `${share * SWEEP} 1`;
      shell.setAttribute('aria-valuenow', share.toFixed(2));
    };
    draw((shows === null ? undefined : live.store.signals.value(shows)) ?? lo);
    return shows === null ? undefined : live.store.signals.listen(shows, draw);
  }, [live, kind, shows, unit, lo, hi]);
  return (
    <Shell ref={element} control={control} look={`shown ${kind}`} role="meter" aria-valuemin={0} aria-valuemax={1} aria-valuenow={0}>
      {kind === 'readout' && <span className="number" />}
      {kind === 'meter' && <div className="water" />}
      {kind === 'ring' && (
        <svg viewBox="-50 -50 100 100" aria-hidden>
          <g transform={`rotate(${90 + (1 - SWEEP) * 180})`}>
            <circle r={RING} className="track" pathLength={1} style={{ strokeDasharray: `${SWEEP} 1` }} />
            <circle r={RING} className="arc" pathLength={1} />
          </g>
        </svg>
      )}
    </Shell>
  );
}
