import { Button } from 'antd';
import { useEffect, useState } from 'react';
import { fit, type FitProposal } from '../../../core/gesture/fit';
import type { RigMapping, RigSignal, Shaping } from '../../../core/rig/document';
import { EditButton } from '../shared/edit';
import { nominal } from '../shared/nominal';
import { useCapture } from '../shared/useCapture';
import styles from './Fit.module.css';
import shared from '../shared/shared.module.css';

/** A gesture is moved through for so long. */
const LASTS_MS = 5000;

interface FitProps {
  mapping: RigMapping;
  signal: RigSignal;
  onChange: (shaping: Shaping) => void;
}

/** Measures a few seconds of a gesture and proposes range, dead zone and smoothing; undo takes them back like any edit. */
export function Fit({ mapping, signal, onChange }: FitProps) {
  const [on, setOn] = useState(false);
  const [proposal, setProposal] = useState<FitProposal | null | 'nothing'>(null);
  const { count, take } = useCapture([signal.id], on);
  const { deglitch, rangeIn } = mapping.shaping;
  const width = rangeIn ? rangeIn.hi - rangeIn.lo : signal.range[1] - signal.range[0];
  useEffect(() => {
    if (!on) return;
    const timer = setTimeout(() => {
      const captured = take().get(signal.id);
      setProposal((captured && fit(captured.timesMs, nominal(signal, captured), { rest: signal.rest, period: signal.period, deglitch, width })) ?? 'nothing');
      setOn(false);
    }, LASTS_MS);
    return () => clearTimeout(timer);
  }, [on, signal, take, deglitch, width]);

  if (on) {
    return (
      <p className={styles.fit} role="status">
        Move through the whole gesture, as you will play it… {count} numbers
      </p>
    );
  }
  return (
    <div className={styles.fit}>
      <EditButton onClick={() => setOn(true)}>
        Fit to a gesture
      </EditButton>
      {proposal === 'nothing' && <p role="alert">Too little moved to go by: move further, for the whole five seconds.</p>}
      {proposal !== null && proposal !== 'nothing' && (
        <>
          <p>{inWords(proposal, signal.unit === 'unit' ? '' : ` ${signal.unit}`)}</p>
          <div className={shared.actions}>
            <EditButton
              type="primary"
              onClick={() => {
                onChange(fitted(mapping.shaping, proposal));
                setProposal(null);
              }}
            >
              Use this
            </EditButton>
            <Button onClick={() => setProposal(null)}>Leave it</Button>
          </div>
        </>
      )}
    </div>
  );
}

function fitted(shaping: Shaping, { rangeIn, median, deadZone, smoothing }: FitProposal): Shaping {
  const kept = { ...shaping };
  delete kept.deadZone;
  delete kept.smoothing;
  return { ...kept, rangeIn: { ...shaping.rangeIn, ...rangeIn }, ...(median ? { deglitch: { ...shaping.deglitch, median } } : {}), ...(deadZone ? { deadZone } : {}), ...(smoothing ? { smoothing } : {}) };
}

const figure = (x: number) => String(Number(x.toPrecision(3)));

function inWords({ gesture, rangeIn, median, deadZone, smoothing }: FitProposal, unit: string): string {
  const { lowest, highest, noise, speedPerS, rateHz, spikes } = gesture;
  const measured = `From ${figure(lowest)} to ${figure(highest)}${unit}, noise ${figure(noise)}, up to ${figure(speedPerS)}${unit} a second, ${figure(rateHz)} numbers a second${spikes > 0 ? `, ${spikes} spikes` : ''}.`;
  const proposed = [`range ${figure(rangeIn.lo)} to ${figure(rangeIn.hi)}`, median && `median of ${median}`, deadZone && `dead zone ${deadZone.kind === 'centre' ? figure(deadZone.inner) : figure(deadZone.low)}`, smoothing?.kind === 'oneEuro' && `smoothing from ${figure(smoothing.minCutoffHz)} Hz`];
  return `${measured} Proposed: ${proposed.filter((part) => typeof part === 'string').join(', ')}${deadZone ? '' : '; it is quiet enough as it is'}.`;
}
