import { InputNumber, Select } from 'antd';
import type { Shaping, Smoothing } from '../../../core/rig/document';
import { Field } from './ShapingPanel';

interface SmoothingFieldsProps {
  shaping: Shaping;
  disabled: boolean;
  onChange: (shaping: Shaping) => void;
}

/** What each kind starts with: calm enough to be seen, quick enough to be played. */
const FRESH: Record<Smoothing['kind'], Smoothing> = {
  onePole: { kind: 'onePole', timeConstantMs: 80 },
  oneEuro: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 },
};

const NAMES = [
  { value: 'none', label: 'None' },
  { value: 'onePole', label: 'Even (one-pole)' },
  { value: 'oneEuro', label: 'Adaptive (One Euro)' },
];

export function SmoothingFields({ shaping, disabled, onChange }: SmoothingFieldsProps) {
  const { smoothing, ...others } = shaping;
  const set = (next: Smoothing | undefined) => onChange(next ? { ...others, smoothing: next } : others);
  return (
    <>
      <Field label="Smoothing">
        <Select
          aria-label="Smoothing"
          disabled={disabled}
          value={smoothing?.kind ?? 'none'}
          options={NAMES}
          onChange={(kind) => set(kind === 'none' ? undefined : FRESH[kind as Smoothing['kind']])}
        />
      </Field>
      {smoothing?.kind === 'onePole' && (
        <Field label="Time (ms)">
          <InputNumber
            aria-label="Smoothing time in ms"
            min={0}
            max={60_000}
            step={10}
            disabled={disabled}
            value={smoothing.timeConstantMs}
            onChange={(timeConstantMs) => timeConstantMs !== null && set({ ...smoothing, timeConstantMs })}
          />
        </Field>
      )}
      {smoothing?.kind === 'oneEuro' && (
        <>
          <Field label="Calm at rest (Hz)">
            <InputNumber
              aria-label="Lowest cutoff in Hz"
              min={0.001}
              max={1000}
              step={0.1}
              disabled={disabled}
              value={smoothing.minCutoffHz}
              onChange={(minCutoffHz) => minCutoffHz !== null && set({ ...smoothing, minCutoffHz })}
            />
          </Field>
          <Field label="Quick in motion (beta)">
            <InputNumber
              aria-label="Beta"
              min={0}
              max={1000}
              step={0.5}
              disabled={disabled}
              value={smoothing.beta}
              onChange={(beta) => beta !== null && set({ ...smoothing, beta })}
            />
          </Field>
        </>
      )}
    </>
  );
}
