import { App, Select, Switch } from 'antd';
import { SIGNAL_UNITS, type RigDerived, type RigDocument } from '../../../core/rig/document';
import { freshFormula, possibleSources, withFormula } from '../../../core/signal/deriving';
import { findSignal } from '../../../core/rig/find';
import { sourcesOf } from '../../../core/rig/links';
import { FORMULA_OPS, FORMULAS, type Amount, type Formula } from '../../../core/signal/formulas';
import { MOST_SOURCES } from '../../../core/signal/formulas/together';
import { OSCILLATOR_SHAPES } from '../../../core/signal/oscillator';
import { nameFrom } from '../shared/fromText';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { useEdit } from '../shell/useRig';
import { Field, NumberFields, Pair } from '../shared/Field';
import styles from './DerivedFields.module.css';

const AXES = ['x', 'y', 'z'] as const;
/** The height of a list in which every formula is in view. */
export const FORMULAS_PX = 560;

/** How a derived signal is made; its range and unit follow from the formula until they are set by hand. */
export function DerivedFields({ derived, rig }: { derived: RigDerived; rig: RigDocument }) {
  const edit = useEdit();
  const put = (to: RigDerived) => edit({ kind: 'change', changes: [{ list: 'derived', id: derived.id, to }] });
  const { formula } = derived;
  const setFormula = (next: Formula) => put(withFormula(derived, next, rig));
  const sources = possibleSources(rig, derived.id).map((id) => ({ value: id, label: `${findSignal(rig, id)!.from} · ${findSignal(rig, id)!.signal.name}` }));
  const one = (label: string, value: string, onChange: (id: string) => void) => (
    <Field label={label} key={label}>
      <Select aria-label={label} showSearch={{ optionFilterProp: 'label' }} value={value} options={sources} onChange={onChange} />
    </Field>
  );
  const several = (labels: readonly string[], ids: readonly string[], onChange: (ids: string[]) => void) => ids.map((id, i) => one(labels[i]!, id, (next) => onChange(ids.with(i, next))));
  return (
    <div className={styles.derivedFields}>
      <Field label="Name">
        <TextField label="Name of the derived signal" maxLength={80} value={derived.name} parse={nameFrom} onChange={(name) => put({ ...derived, name })} />
      </Field>
      <Field label="Made as">
        <Select
          aria-label="Formula"
          listHeight={FORMULAS_PX}
          value={formula.op}
          options={FORMULA_OPS.map((value) => ({ value, label: FORMULAS[value].name, disabled: value === 'movement' }))}
          onChange={(op) => setFormula(freshFormula(op, sourcesOf(formula), rig))}
        />
      </Field>
      <FormulaSources formula={formula} one={one} several={several} sources={sources} setFormula={setFormula} />
      <FormulaNumbers formula={formula} sources={sources} setFormula={setFormula} />
      <Field label="Unit">
        <Select aria-label="Unit" value={derived.unit} options={SIGNAL_UNITS.map((value) => ({ value, label: value }))} onChange={(unit) => put({ ...derived, unit })} />
      </Field>
      <Field label="Range">
        <Pair label="Range of the signal" step={0.1} values={derived.range} onChange={(range) => put({ ...derived, range })} />
      </Field>
      <Field label="As on and off">
        <Switch aria-label="Derived as on and off" checked={derived.kind === 'gate'} onChange={(gate) => put({ ...derived, kind: gate ? 'gate' : 'continuous' })} />
      </Field>
    </div>
  );
}

interface SourcesProps {
  formula: Formula;
  sources: { value: string; label: string }[];
  one: (label: string, value: string, onChange: (id: string) => void) => React.ReactNode;
  several: (labels: readonly string[], ids: readonly string[], onChange: (ids: string[]) => void) => React.ReactNode;
  setFormula: (formula: Formula) => void;
}

/** The signals that a formula reads. */
function FormulaSources({ formula, sources, one, several, setFormula }: SourcesProps) {
  const { message } = App.useApp();
  switch (formula.op) {
    case 'distance': {
      const { from, to } = formula;
      return (
        <>
          {several(AXES.map((axis) => `One point, ${axis}`), from, (next) => setFormula({ ...formula, from: next }))}
          {several(AXES.map((axis) => `Other point, ${axis}`), to, (next) => setFormula({ ...formula, to: next }))}
          <Field label="In three dimensions">
            <Switch aria-label="In three dimensions" checked={from.length === 3} onChange={(on) => setFormula({ ...formula, from: on ? [...from, from[0]!] : from.slice(0, 2), to: on ? [...to, to[0]!] : to.slice(0, 2) })} />
          </Field>
        </>
      );
    }
    case 'tilt':
      return several(AXES.map((axis) => `Acceleration ${axis}`), formula.of, (of) => setFormula({ ...formula, of: of as [string, string, string] }));
    case 'speed':
    case 'accumulate':
    case 'envelope':
      return one('Of', formula.of, (of) => setFormula({ ...formula, of }));
    case 'hold':
      return (
        <>
          {one('Of', formula.of, (of) => setFormula({ ...formula, of }))}
          {one('At the gate', formula.gate, (gate) => setFormula({ ...formula, gate }))}
        </>
      );
    case 'movement':
    case 'oscillator':
    case 'beat':
    case 'constant':
      return null;
    default: {
      const [least, most] = formula.op === 'magnitude' ? [2, 3] : [1, MOST_SOURCES];
      return (
        <Field label="Of">
          <Select
            aria-label="Signals of the formula"
            mode="multiple"
            maxCount={most}
            showSearch={{ optionFilterProp: 'label' }}
            value={formula.of}
            options={sources}
            onChange={(of) => (of.length >= least ? setFormula({ ...formula, of }) : void message.warning(`${FORMULAS[formula.op].name} needs ${least === 1 ? 'a signal' : 'two signals'}: choose another before you take this one away.`))}
          />
        </Field>
      );
    }
  }
}

/** The numbers of a formula. */
function FormulaNumbers({ formula, sources, setFormula }: Pick<SourcesProps, 'formula' | 'sources' | 'setFormula'>) {
  const { message } = App.useApp();
  const ms = (key: string, label: string) => ({ key, label, min: 0, max: 60_000, step: 10 });
  switch (formula.op) {
    case 'tilt':
      return (
        <Field label="Which tilt">
          <Select aria-label="Which tilt" value={formula.axis} options={(['pitch', 'roll'] as const).map((value) => ({ value, label: value }))} onChange={(axis) => setFormula({ ...formula, axis })} />
        </Field>
      );
    case 'accumulate':
      return (
        <>
          <Field label="Between">
            <Pair label="Limits" step={0.1} values={[formula.lo, formula.hi]} onChange={([lo, hi]) => (lo < hi ? setFormula({ ...formula, lo, hi }) : void message.warning(`It adds up from a lower limit to a higher one, and ${lo} is not below ${hi}: the limits stay as they were.`))} />
          </Field>
          <NumberFields of={{ leakPerS: formula.leakPerS ?? 0 }} fields={[{ key: 'leakPerS', label: 'Leaks, a second', min: 0, max: 1000, step: 0.1 }]} onChange={({ leakPerS }) => setFormula({ ...formula, leakPerS })} />
        </>
      );
    case 'envelope':
      return <NumberFields of={formula} fields={[ms('attackMs', 'Up (ms)'), ms('releaseMs', 'Down (ms)')]} onChange={setFormula} />;
    case 'oscillator':
      return (
        <>
          <Field label="Shape">
            <Select aria-label="Shape of the wave" value={formula.shape} options={OSCILLATOR_SHAPES.map((value) => ({ value, label: value === 'random' ? 'random step' : value }))} onChange={(shape) => setFormula({ ...formula, shape })} />
          </Field>
          <AmountField label="Rate (Hz)" value={formula.rateHz} min={0.01} max={40} first={1} sources={sources} onChange={(rateHz) => setFormula({ ...formula, rateHz })} />
          <AmountField label="Depth" value={formula.depth} min={-1e6} max={1e6} first={1} sources={sources} onChange={(depth) => setFormula({ ...formula, depth })} />
        </>
      );
    case 'beat':
      return (
        <Field label="Once every">
          <Select
            aria-label="Once every"
            value={formula.every}
            options={[{ value: 'bar' as const, label: 'bar' }, ...[0.25, 0.5, 1, 2, 3, 4, 8, 16, 32].map((value) => ({ value, label: value === 1 ? 'beat' : `${value} beats` }))]}
            onChange={(every) => setFormula({ ...formula, every })}
          />
        </Field>
      );
    case 'constant':
      return <NumberFields of={formula} fields={[{ key: 'value', label: 'Value', min: -1e9, max: 1e9, step: 0.1 }]} onChange={setFormula} />;
    default:
      return null;
  }
}

interface AmountFieldProps {
  label: string;
  value: Amount;
  min: number;
  max: number;
  /** The number that it becomes when it stops following a signal. */
  first: number;
  sources: { value: string; label: string }[];
  onChange: (amount: Amount) => void;
}

/** A number, or the signal that gives it. */
function AmountField({ label, value, min, max, first, sources, onChange }: AmountFieldProps) {
  const FIXED = '';
  return (
    <>
      <Field label={label}>
        <Select
          aria-label={`${label} from`}
          showSearch={{ optionFilterProp: 'label' }}
          value={typeof value === 'number' ? FIXED : value.signal}
          options={[{ value: FIXED, label: 'a number' }, ...sources]}
          onChange={(source) => onChange(source === FIXED ? first : { signal: source })}
        />
      </Field>
      {typeof value === 'number' && (
        <Field label="">
          <NumberBox label={label} min={min} max={max} step={0.1} value={value} onChange={onChange} />
        </Field>
      )}
    </>
  );
}
