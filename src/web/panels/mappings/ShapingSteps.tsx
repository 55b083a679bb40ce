import type { Curve, DeadZone, RigDerived, RigSignal, Shaping, Smoothing } from '../../../core/rig/document';
import { EditSelect, EditSwitch } from '../shared/edit';
import { CurvePoints } from './CurvePoints';
import { Field, NumberFields, Pair } from '../shared/Field';
import { KindStep, type StepKind } from './KindStep';

const share = (key: string, label: string) => ({ key, label, min: 0, max: 1, step: 0.01 });
const time = (key: string, label: string, name: string) => ({ key, label, name, min: 0, max: 60_000, step: 10 });

const DEAD_ZONES: Record<DeadZone['kind'], StepKind<DeadZone>> = {
  centre: { label: 'Around the middle', fresh: { kind: 'centre', inner: 0.1, outer: 1 }, fields: [share('inner', 'Nothing within'), share('outer', 'Full from')] },
  ends: { label: 'At both ends', fresh: { kind: 'ends', low: 0.03, high: 0.03 }, fields: [share('low', 'Low end'), share('high', 'High end')] },
};

/** What each kind starts with: calm enough to be seen, quick enough to be played. */
export const SMOOTHINGS: Record<Smoothing['kind'], StepKind<Smoothing>> = {
  onePole: { label: 'Even (one-pole)', fresh: { kind: 'onePole', timeConstantMs: 80 }, fields: [time('timeConstantMs', 'Time (ms)', 'Smoothing time in ms')] },
  attackRelease: {
    label: 'Attack and release',
    fresh: { kind: 'attackRelease', attackMs: 20, releaseMs: 200 },
    fields: [time('attackMs', 'Rising (ms)', 'Attack time in ms'), time('releaseMs', 'Falling (ms)', 'Release time in ms')],
  },
  oneEuro: {
    label: 'Adaptive (One Euro)',
    fresh: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 },
    fields: [
      { key: 'minCutoffHz', label: 'Calm at rest (Hz)', name: 'Lowest cutoff in Hz', min: 0.001, max: 1000, step: 0.1 },
      { key: 'beta', label: 'Quick in motion (beta)', name: 'Beta', min: 0, max: 1000, step: 0.5 },
    ],
  },
  slew: { label: 'Speed limit', fresh: { kind: 'slew', perS: 2 }, fields: [{ key: 'perS', label: 'Full ways a second', name: 'Speed limit in full ways a second', min: 0.0001, max: 1e6, step: 0.5 }] },
};

const CURVES: Record<Curve['kind'], StepKind<Curve>> = {
  power: { label: 'Power', fresh: { kind: 'power', k: 1 }, fields: [{ key: 'k', label: 'Bend, -4 to 4', name: 'Bend of the power curve', min: -4, max: 4, step: 0.1 }] },
  s: { label: 'S', fresh: { kind: 's', amount: 0.5 }, fields: [{ key: 'amount', label: 'Amount, -2 to 2', name: 'Amount of the S curve', min: -2, max: 2, step: 0.1 }] },
  points: { label: 'Through points', fresh: { kind: 'points', points: [[0, 0], [0.5, 0.5], [1, 1]] }, fields: [] },
  stepped: { label: 'Steps of my own', fresh: { kind: 'stepped', points: [[0, 0], [0.34, 0.5], [0.67, 1]] }, fields: [] },
};

interface ShapingStepsProps {
  shaping: Shaping;
  signal: RigSignal | RigDerived;
  onChange: (shaping: Shaping) => void;
}

/** Every step between a signal and a level, in the order in which they work. */
export function ShapingSteps({ shaping, signal, onChange }: ShapingStepsProps) {
  const set = <Step extends keyof Shaping>(step: Step, next: Shaping[Step] | undefined) => {
    const others = { ...shaping };
    delete others[step];
    onChange(next === undefined ? others : { ...others, [step]: next });
  };
  const { deglitch, steps, window: part, curve } = shaping;
  const rangeIn = shaping.rangeIn ?? { lo: signal.range[0], hi: signal.range[1] };
  const setDeglitch = (next: NonNullable<Shaping['deglitch']>) => set('deglitch', next.median || next.jump ? next : undefined);
  return (
    <>
      <Field label={signal.unit === 'unit' ? 'Range in' : `Range in (${signal.unit})`}>
        <Pair label="Range in" values={[rangeIn.lo, rangeIn.hi]} step={Math.abs(signal.range[1] - signal.range[0]) / 100} onChange={([lo, hi]) => set('rangeIn', { ...rangeIn, lo, hi })} />
      </Field>
      <Field label="Outside of it">
        <EditSelect
          aria-label="Outside of the range"
          value={rangeIn.outside ?? 'clamp'}
          options={[
            { value: 'clamp', label: 'stays at the end' },
            { value: 'wrap', label: 'starts again' },
            { value: 'fold', label: 'comes back' },
          ]}
          onChange={(outside) => set('rangeIn', { ...rangeIn, outside })}
        />
      </Field>
      <KindStep label="Dead zone" none="None" kinds={DEAD_ZONES} value={shaping.deadZone} onChange={(next) => set('deadZone', next)} />
      <Field label="De-glitch">
        <EditSelect
          aria-label="De-glitch"
          value={deglitch?.median ?? 0}
          options={[
            { value: 0, label: 'None' },
            ...([3, 5, 7] as const).map((median) => ({ value: median, label: `Median of ${median}` })),
          ]}
          onChange={(median) => setDeglitch({ ...(deglitch?.jump ? { jump: deglitch.jump } : {}), ...(median === 0 ? {} : { median: median as 3 | 5 | 7 }) })}
        />
      </Field>
      <Field label="Ignore jumps">
        <EditSwitch
          aria-label="Ignore jumps"
          checked={deglitch?.jump !== undefined}
          onChange={(on) => setDeglitch({ ...(deglitch?.median ? { median: deglitch.median } : {}), ...(on ? { jump: { perS: 20, forMs: 60 } } : {}) })}
        />
      </Field>
      {deglitch?.jump && (
        <NumberFields
          of={deglitch.jump}
          onChange={(jump) => setDeglitch({ ...deglitch, jump })}
          fields={[
            { key: 'perS', label: 'Faster than, per s', name: 'Jumps faster than, full ways a second', min: 0.001, max: 1e6, step: 1 },
            time('forMs', 'Unless it lasts (ms)', 'Unless a jump lasts, ms'),
          ]}
        />
      )}
      <KindStep label="Smoothing" none="None" kinds={SMOOTHINGS} value={shaping.smoothing} onChange={(next) => set('smoothing', next)} />
      <KindStep label="Curve" none="Straight" kinds={CURVES} value={curve} onChange={(next) => set('curve', next)}>
        {(curve?.kind === 'points' || curve?.kind === 'stepped') && <CurvePoints curve={curve} onChange={(points) => set('curve', { kind: curve.kind, points })} />}
      </KindStep>
      <Field label="Equal steps">
        <EditSwitch aria-label="Equal steps" checked={steps !== undefined} onChange={(on) => set('steps', on ? { count: 8, hysteresis: 0.2 } : undefined)} />
      </Field>
      {steps && (
        <NumberFields
          of={steps}
          onChange={(next) => set('steps', { ...next, count: Math.round(next.count) })}
          fields={[
            { key: 'count', label: 'How many', name: 'Number of equal steps', min: 1, max: 1024, step: 1 },
            { key: 'hysteresis', label: 'Calm at borders', name: 'Hysteresis of the steps', min: 0, max: 0.99, step: 0.05 },
          ]}
        />
      )}
      <Field label="Only a part">
        <EditSwitch aria-label="Only a part of the way" checked={part !== undefined} onChange={(on) => set('window', on ? { lo: 0, hi: 0.5 } : undefined)} />
      </Field>
      {part && (
        <>
          <NumberFields of={part} onChange={(next) => set('window', next)} fields={[share('lo', 'From level'), share('hi', 'To level')]} />
          <Field label="Cross-fade">
            <EditSelect
              aria-label="Cross-fade"
              value={part.fade ? `${part.fade.law} ${part.fade.direction}` : 'none'}
              options={FADES}
              onChange={(fade) => {
                const [law, direction] = fade.split(' ') as ['linear' | 'equalPower', 'in' | 'out'];
                set('window', fade === 'none' ? { lo: part.lo, hi: part.hi } : { lo: part.lo, hi: part.hi, fade: { law, direction } });
              }}
            />
          </Field>
        </>
      )}
    </>
  );
}

const FADES = [
  { value: 'none', label: 'None' },
  { value: 'equalPower in', label: 'In, equal power' },
  { value: 'equalPower out', label: 'Out, equal power' },
  { value: 'linear in', label: 'In, straight' },
  { value: 'linear out', label: 'Out, straight' },
];
