import { InputNumber } from 'antd';
import type { ReactNode } from 'react';

/** A label and what it names, side by side. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="field">
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
  values: [number, number];
  disabled: boolean;
  onChange: (values: [number, number]) => void;
}

/** Two numbers that belong together. */
export function Pair({ label, values: [lo, hi], onChange, ...rest }: PairProps) {
  return (
    <span className="pair">
      <InputNumber aria-label={`${label}, from`} {...rest} value={lo} onChange={(next) => next !== null && onChange([next, hi])} />
      <span aria-hidden>to</span>
      <InputNumber aria-label={`${label}, to`} {...rest} value={hi} onChange={(next) => next !== null && onChange([lo, next])} />
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
}

interface NumberFieldsProps<T> {
  of: T;
  fields: readonly NumberField[];
  disabled: boolean;
  onChange: (next: T) => void;
}

export function NumberFields<T extends object>({ of, fields, disabled, onChange }: NumberFieldsProps<T>) {
  return (
    <>
      {fields.map(({ key, label, name, ...limits }) => (
        <Field key={key} label={label}>
          <InputNumber
            aria-label={name ?? label}
            disabled={disabled}
            {...limits}
            value={(of as Record<string, number>)[key]!}
            onChange={(value) => value !== null && onChange({ ...of, [key]: value })}
          />
        </Field>
      ))}
    </>
  );
}
