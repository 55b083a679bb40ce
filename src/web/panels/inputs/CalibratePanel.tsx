import { Button, Checkbox, Progress } from 'antd';
import { useEffect, useState } from 'react';
import { measureRest, proposeCalibration, wasMoved, type CalibrationKind, type Resting } from '../../../core/gesture/calibrate';
import type { Calibration, RigSignal } from '../../../core/rig/document';
import type { Change } from '../../../core/rig/edit';
import { useEdit, useRig } from '../shell/useRig';
import { Aside } from '../shared/Aside';
import { EditButton } from '../shared/edit';
import { CalibrationPicture } from './CalibrationPicture';
import { useCapture, type Captured } from '../shared/useCapture';
import type { RigInput } from '../../../core/inputs/kinds';
import { counted } from '../../../core/units/counted';
import shared from '../shared/shared.module.css';
import styles from './CalibratePanel.module.css';

const REST_MS = 3000;
const TRAVEL_MS = 6000;

type Step = 'begin' | 'resting' | 'between' | 'moving' | 'result' | 'done';

/** What is proposed for one signal, and whether it is wanted. */
interface Proposal {
  signal: RigSignal;
  calibration: Calibration;
  moved: readonly number[];
  wanted: boolean;
}

/** A guided few seconds: untouched, then all the way; the result before and after; undo. */
export function CalibratePanel({ input, onClose }: { input: RigInput; onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const [step, setStep] = useState<Step>('begin');
  const [resting, setResting] = useState<ReadonlyMap<string, Resting>>(new Map());
  const [movedAtRest, setMovedAtRest] = useState<string[]>([]);
  const [proposals, setProposals] = useState<Proposal[]>([]);
  /** By signal: what it had before. */
  const [before, setBefore] = useState<ReadonlyMap<string, Calibration | undefined>>(new Map());
  const signals = rig.signals.filter((signal) => signal.input === input.id && signal.kind === 'continuous');
  const { count, take } = useCapture(signals.map(({ id }) => id), step === 'resting' || step === 'moving');

  const measured = () => {
    const found = new Map<string, Resting>();
    const moved: string[] = [];
    for (const signal of signals) {
      const rest = measureRest(take().get(signal.id)?.values ?? []);
      if (!rest) continue;
      if (wasMoved(rest, signal.range)) moved.push(signal.name);
      else found.set(signal.id, rest);
    }
    setMovedAtRest(moved);
    setResting(found);
    setStep('between');
  };
  const propose = (captured: Captured) => {
    setProposals(
      signals.flatMap((signal): Proposal[] => {
        const moved = captured.get(signal.id)?.values ?? [];
        const calibration = proposeCalibration(kindOf(signal), resting.get(signal.id) ?? null, moved, signal.calibration);
        return calibration ? [{ signal, calibration, moved, wanted: true }] : [];
      }),
    );
    setStep('result');
  };
  const apply = () => {
    // As they are now: another window may have named them otherwise, or taken one away.
    const wanted = new Map(proposals.flatMap((proposal) => (proposal.wanted ? [[proposal.signal.id, proposal.calibration]] : [])));
    setBefore(new Map(signals.flatMap(({ id, calibration }) => (wanted.has(id) ? [[id, calibration]] : []))));
    calibrate(wanted);
    setStep('done');
  };
  const calibrate = (to: ReadonlyMap<string, Calibration | undefined>) => {
    const changed = signals.filter(({ id }) => to.has(id));
    edit({ kind: 'change', changes: changed.map((signal): Change => ({ list: 'signals', id: signal.id, to: withCalibration(signal, to.get(signal.id)) })) });
  };

  return (
    <Aside title={`Calibrate ${input.name}`} onClose={onClose}>
      {signals.length === 0 && <p className={shared.empty}>This input has no signals that move.</p>}
      {step === 'begin' && signals.length > 0 && (
        <>
          <p>First leave it alone for {REST_MS / 1000} seconds: that shows its centre, its drift and its noise.</p>
          <Button type="primary" onClick={() => setStep('resting')}>
            I am not touching it
          </Button>
        </>
      )}
      {step === 'resting' && <Countdown key="rest" forMs={REST_MS} says="Leave it alone…" count={count} onEnd={measured} />}
      {step === 'between' && (
        <>
          {movedAtRest.length > 0 && (
            <p role="alert" className={shared.hint}>
              {movedAtRest.slice(0, 4).join(', ')} {movedAtRest.length > 4 && `and ${movedAtRest.length - 4} more `}moved meanwhile, so nothing is known of {movedAtRest.length === 1 ? 'its' : 'their'} rest: begin again if that was not meant.
            </p>
          )}
          <p>
            {resting.size === 0
              ? 'Nothing arrived while it lay still, so there is no noise to take away.'
              : `${counted(resting.size, 'signal')} measured at rest.`}{' '}
            Now move everything all the way, to every end, a few times.
          </p>
          <Button type="primary" onClick={() => setStep('moving')}>
            I am moving it
          </Button>
          <Button onClick={() => propose(new Map())}>Keep the travel as it is</Button>
          {movedAtRest.length > 0 && <Button onClick={() => setStep('begin')}>Begin again</Button>}
        </>
      )}
      {step === 'moving' && <Countdown key="move" forMs={TRAVEL_MS} says="All the way, to every end…" count={count} onEnd={() => propose(take())} />}
      {step === 'result' && (
        <>
          {proposals.length === 0 && <p className={shared.empty}>Nothing arrived: see that it is switched on, then begin again.</p>}
          <ul className={styles.proposals}>
            {proposals.map((proposal, i) => (
              <li key={proposal.signal.id}>
                <Checkbox checked={proposal.wanted} onChange={({ target }) => setProposals(proposals.with(i, { ...proposal, wanted: target.checked }))}>
                  {proposal.signal.name}
                </Checkbox>
                <CalibrationPicture signal={proposal.signal} calibration={proposal.calibration} raw={proposal.moved} />
                <span>{inWords(proposal.calibration)}</span>
              </li>
            ))}
          </ul>
          <div className={shared.actions}>
            <EditButton type="primary" disabled={!proposals.some(({ wanted }) => wanted)} onClick={apply}>
              Use this
            </EditButton>
            <Button onClick={() => setStep('begin')}>Again</Button>
          </div>
        </>
      )}
      {step === 'done' && (
        <>
          <p>Calibrated. It is kept with the rig and is there again tomorrow.</p>
          <div className={shared.actions}>
            <EditButton
              onClick={() => {
                calibrate(before);
                setStep('result');
              }}
            >
              Undo
            </EditButton>
            <Button onClick={() => setStep('begin')}>Again</Button>
          </div>
        </>
      )}
    </Aside>
  );
}

/** A stick springs back to the middle of its range; a tilt has a zero; the rest has ends. */
function kindOf({ unit, rest, range: [lo, hi] }: RigSignal): CalibrationKind {
  if (unit === 'deg') return 'zeroed';
  return rest !== undefined && rest > Math.min(lo, hi) && rest < Math.max(lo, hi) ? 'centred' : 'ends';
}

function inWords({ noise, travel, zero }: Calibration): string {
  const figure = (x: number) => Number(x.toPrecision(3)).toString();
  return [
    travel && `from ${figure(travel.lo)} to ${figure(travel.hi)}`,
    travel?.centre !== undefined && `centre ${figure(travel.centre)}`,
    zero !== undefined && `zero at ${figure(zero)}`,
    noise !== undefined && `still within ${figure(noise)}`,
  ]
    .filter((part) => typeof part === 'string')
    .join(', ');
}

function withCalibration(signal: RigSignal, calibration: Calibration | undefined): RigSignal {
  const changed = { ...signal };
  if (calibration) changed.calibration = calibration;
  else delete changed.calibration;
  return changed;
}

function Countdown({ forMs, says, count, onEnd }: { forMs: number; says: string; count: number; onEnd: () => void }) {
  const [part, setPart] = useState(0);
  useEffect(() => {
    const startMs = performance.now();
    const timer = setInterval(() => {
      const now = (performance.now() - startMs) / forMs;
      setPart(Math.min(1, now));
      if (now < 1) return;
      clearInterval(timer);
      onEnd();
    }, 100);
    return () => clearInterval(timer);
    // It runs once, from when it appears.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  return (
    <div role="status">
      <p>{says}</p>
      <Progress percent={Math.round(part * 100)} showInfo={false} />
      <p className={shared.missed}>{count} numbers so far</p>
    </div>
  );
}
