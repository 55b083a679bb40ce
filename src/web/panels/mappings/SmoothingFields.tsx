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
  attackRelease: { kind: 'attackRelease', attackMs: 20, releaseMs: 200 },
  slew: { kind: 'slew', perS: 2 },
  oneEuro: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 },
};

const time = (key: string, label: string, name: string) => ({ key, label, name, min: 0, max: 60_000, step: 10 });

/** The numbers of each kind, in the order in which they are set. */
const NUMBERS: Record<Smoothing['kind'], { key: string; label: string; name: string; min: number; max: number; step: number }[]> = {
  onePole: [time('timeConstantMs', 'Time (ms)', 'Smoothing time in ms')],
  attackRelease: [time('attackMs', 'Rising (ms)', 'Attack time in ms'), time('releaseMs', 'Falling (ms)', 'Release time in ms')],
  oneEuro: [
    { key: 'minCutoffHz', label: 'Calm at rest (Hz)', name: 'Lowest cutoff in Hz', min: 0.001, max: 1000, step: 0.1 },
    { key: 'beta', label: 'Quick in motion (beta)', name: 'Beta', min: 0, max: 1000, step: 0.5 },
  ],
  slew: [{ key: 'perS', label: 'Full ways a second', name: 'Speed limit in full ways a second', min: 0.0001, max: 1e6, step: 0.5 }],
};

const NAMES = [
  { value: 'none', label: 'None' },
  { value: 'onePole', label: 'Even (one-pole)' },
  { value: 'attackRelease', label: 'Attack and release' },
  { value: 'oneEuro', label: 'Adaptive (One Euro)' },
  { value: 'slew', label: 'Speed limit' },
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
      {smoothing &&
        NUMBERS[smoothing.kind].map(({ key, label, name, ...limits }) => (
          <Field key={key} label={label}>
            <InputNumber
              aria-label={name}
              disabled={disabled}
              {...limits}
              value={(smoothing as unknown as Record<string, number>)[key]!}
              onChange={(value) => value !== null && set({ ...smoothing, [key]: value })}
            />
          </Field>
        ))}
    </>
  );
}
