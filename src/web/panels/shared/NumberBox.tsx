import { App, InputNumber } from 'antd';
import { useRef } from 'react';

interface NumberBoxProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  whole?: boolean;
  /** Always so many figures after the point. */
  decimals?: number;
  disabled?: boolean;
  onChange: (value: number) => void;
}

/**
 * A number in a field. What is typed or pasted out of its limits, or is no number, is not used: leaving the field says so
 * in a sentence and shows what holds.
 */
export function NumberBox({ label, value, min, max, step = 1, whole = false, decimals, disabled = false, onChange }: NumberBoxProps) {
  const { message } = App.useApp();
  const typed = useRef<string | null>(null);
  const settle = () => {
    const text = typed.current?.trim() ?? null;
    typed.current = null;
    if (text === null || text === '') return;
    const number = Number(text.replace(',', '.'));
    if (Number.isNaN(number)) void message.warning(`${label} takes a number, and “${text.slice(0, 30)}” is none: it stays as it was.`);
    else if (number < min || number > max) void message.warning(`${label} goes from ${min} to ${max}: ${text.slice(0, 30)} became ${number < min ? min : max}.`);
  };
  return (
    <InputNumber
      aria-label={label}
      min={min}
      max={max}
      step={step}
      {...(whole ? { precision: 0 } : decimals === undefined ? {} : { precision: decimals })}
      disabled={disabled}
      value={value}
      onInput={(text) => (typed.current = text)}
      onStep={() => (typed.current = null)}
      onBlur={settle}
      onPressEnter={settle}
      onChange={(next) => next !== null && next !== value && onChange(next)}
    />
  );
}
