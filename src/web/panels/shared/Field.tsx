import type { ReactNode } from 'react';
import { NumberBox } from './NumberBox';
import shared from './shared.module.css';

/** One control and its label: that names it, and a click on it leads there. */
export function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className={shared.field}>
      <span>{label}</span>
      {children}
    </label>
  );
}

/** What is called so, side by side with its name: several controls, or one that says itself what it is. In a label a click beside them would use the first. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className={shared.field}>
      <span>{label}</span>
      {children}
    </div>
  );
}

interface PairProps {
  label: string;
  min?: number;
  max?: number;
  step: number;
  values: readonly [number, number];
  onChange: (values: [number, number]) => void;
}

/** Two numbers that belong together. */
export function Pair({ label, values: [lo, hi], onChange, min = -1e9, max = 1e9, ...rest }: PairProps) {
  return (
    <span className={shared.pair}>
      <NumberBox label={`${label}, from`} min={min} max={max} {...rest} value={lo} onChange={(next) => onChange([next, hi])} />
      <span aria-hidden>to</span>
      <NumberBox label={`${label}, to`} min={min} max={max} {...rest} value={hi} onChange={(next) => onChange([lo, next])} />
    </span>
  );
}

/** One number of a thing that has several, by its key. */
export interface NumberField {
  key: string;
  label: string;
  /** Spoken name, where the label alone would not say enough. */
  name?: string;
  min: number;
  max: number;
  step: number;
  whole?: boolean;
}

interface NumberFieldsProps<T> {
  of: T;
  fields: readonly NumberField[];
  onChange: (next: T) => void;
}

export function NumberFields<T extends object>({ of, fields, onChange }: NumberFieldsProps<T>) {
  return (
    <>
      {fields.map(({ key, label, name, ...limits }) => (
        <Field key={key} label={label}>
          <NumberBox label={name ?? label} {...limits} value={(of as Record<string, number>)[key] ?? 0} onChange={(value) => onChange({ ...of, [key]: value })} />
        </Field>
      ))}
    </>
  );
}
