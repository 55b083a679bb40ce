import { namesIn } from '../../../core/ensemble/theory/spelling';
import type { RigDocument } from '../../../core/rig/document';
import { findSignal, findStream } from '../../../core/rig/find';
import type { Mode } from '../../../core/voices/scale';
import { EditSelect } from '../shared/edit';
import { Field } from '../shared/Field';
import { rateOptions } from './rates';

interface ChoiceProps<T> {
  label: string;
  value: T;
  onChange: (value: T) => void;
}

/** One of a few words. */
export function Choice<T extends string | number>({ label, options, value, onChange }: ChoiceProps<T> & { options: readonly (T | { value: T; label: string; disabled?: boolean })[] }) {
  return (
    <Field label={label}>
      <EditSelect<T> aria-label={label} value={value} options={options.map((option) => (typeof option === 'object' ? option : { value: option, label: String(option) }))} onChange={onChange} />
    </Field>
  );
}

/** The keys that there are, as their signatures write them. */
export const tonicsIn = (mode: Mode) => Array.from({ length: 12 }, (_, value) => ({ value, label: namesIn(value, mode)[value]! }));

export function RateChoice({ label, value, ...rest }: ChoiceProps<number>) {
  const { options, value: known } = rateOptions(value);
  return <Choice label={label} options={options} value={known} {...rest} />;
}

/** A stream of an input or of another member; not the one that listens, nor those that listen to it, or it would go in a circle. */
export function StreamChoice({ label, rig, without, value, onChange }: ChoiceProps<string> & { rig: RigDocument; without: readonly string[] }) {
  const options = [...rig.members, ...rig.streams.filter(({ hidden, id }) => !hidden || id === value)].filter(({ id }) => !without.includes(id)).map(({ id, name }) => ({ value: id, label: `${findStream(rig, id)!.from} · ${name}` }));
  return (
    <Field label={label}>
      <EditSelect aria-label={label} showSearch={{ optionFilterProp: 'label' }} popupMatchSelectWidth={false} value={value} options={options} onChange={onChange} />
    </Field>
  );
}

const NONE = '';

/** A signal, or none where that may be; gates alone where those are wanted. */
export function SignalChoice({ label, rig, gates, none, value, onChange }: ChoiceProps<string | undefined> & { rig: RigDocument; gates?: boolean; none?: string }) {
  // What toggles is on or off as a gate is, though it has a range.
  const known = gates ? [...rig.signals.filter(({ kind, unit }) => kind === 'gate' || unit === 'unit'), ...rig.derived.filter(({ kind }) => kind === 'gate')] : [...rig.signals, ...rig.derived];
  const options = known.map(({ id, name }) => ({ value: id, label: `${findSignal(rig, id)!.from} · ${name}` }));
  return (
    <Field label={label}>
      <EditSelect
        aria-label={label}
        showSearch={{ optionFilterProp: 'label' }}
        popupMatchSelectWidth={false}
        value={value ?? NONE}
        options={[...(none === undefined ? [] : [{ value: NONE, label: none }]), ...options]}
        onChange={(id) => onChange(id === NONE ? undefined : id)}
      />
    </Field>
  );
}

/** The fields with one of them set, or left out where it is undefined. */
export function withField<P extends object>(part: P, change: { [K in keyof P]?: P[K] | undefined }): P {
  return Object.fromEntries(Object.entries({ ...part, ...change }).filter(([, value]) => value !== undefined)) as P;
}
