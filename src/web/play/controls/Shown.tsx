import { useEffect, useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import { usePlaying } from '../PlayContext';
import { Shell } from './Shell';

const RING = 40;
const SWEEP = 0.75;

/** A signal that comes back: as a number, as a bar, as an arc. Fingers do nothing to it. */
export function Shown({ control }: { control: ControlOf<'readout' | 'meter' | 'ring'> }) {
  const { live } = usePlaying();
  const { kind, shows } = control;
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const draw = (value: number) => {
      const share = Math.min(1, Math.max(0, value));
      const shell = element.current!;
      if (kind === 'readout') shell.querySelector('.number')!.textContent = String(Math.round(value * 127));
      else if (kind === 'meter') (shell.querySelector('.water') as HTMLElement).style.transform = `scaleY(${share})`;
      else (shell.querySelector('.arc') as SVGCircleElement).style.strokeDasharray = `${share * SWEEP} 1`;
      shell.setAttribute('aria-valuenow', share.toFixed(2));
    };
    draw((shows !== null && live.signalValue(shows)) || 0);
    return shows === null ? undefined : live.onSignal(shows, draw);
  }, [live, kind, shows]);
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
