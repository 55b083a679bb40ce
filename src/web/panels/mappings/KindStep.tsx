import type { ReactNode } from 'react';
import { EditSelect } from '../shared/edit';
import { Field, NumberFields, type NumberField } from '../shared/Field';

/** One kind of a step: its name, what it starts with, and its numbers. */
export interface StepKind<T> {
  label: string;
  fresh: T;
  fields: readonly NumberField[];
}

interface KindStepProps<T extends { kind: string }> {
  label: string;
  none: string;
  kinds: Readonly<Record<T['kind'], StepKind<T>>>;
  value: T | undefined;
  onChange: (next: T | undefined) => void;
  /** What a kind has besides its numbers. */
  children?: ReactNode;
}

/** A step of shaping that comes in several kinds or not at all. */
export function KindStep<T extends { kind: string }>({ label, none, kinds, value, onChange, children }: KindStepProps<T>) {
  const kind = value?.kind as T['kind'] | undefined;
  const options = [{ value: 'none', label: none }, ...(Object.entries(kinds) as [string, StepKind<T>][]).map(([key, { label: name }]) => ({ value: key, label: name }))];
  return (
    <>
      <Field label={label}>
        <EditSelect aria-label={label} value={kind ?? 'none'} options={options} onChange={(next) => onChange(next === 'none' ? undefined : kinds[next as T['kind']].fresh)} />
      </Field>
      {value && kind !== undefined && <NumberFields of={value} fields={kinds[kind].fields} onChange={onChange} />}
      {children}
    </>
  );
}
