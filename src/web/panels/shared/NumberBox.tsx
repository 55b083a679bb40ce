import { App, InputNumber } from 'antd';
import { useRef, useState, type KeyboardEvent } from 'react';
import { EditNumber } from './edit';
import { readNumber } from './readNumber';

interface NumberBoxProps {
  label: string;
  /** Null: none yet; then the field is empty. */
  value: number | null;
  min: number;
  max: number;
  step?: number;
  whole?: boolean;
  /** Always so many figures after the point. */
  decimals?: number;
  /** Whether it is locked where nothing may be edited, as on Stage. */
  locks?: boolean;
  disabled?: boolean;
  placeholder?: string;
  onChange: (value: number) => void;
  /** Where there may be none: the field was emptied. Else it stays as it was. */
  onEmpty?: () => void;
}

/**
 * A number in a field. It counts once it is finished: by Enter, by leaving the field, by an arrow; never half-typed. What is
 * typed or pasted out of its limits, or is no number, is said in a sentence; Escape gives up what was typed.
 */
export function NumberBox({ label, value, min, max, step = 1, whole = false, decimals, locks = true, disabled = false, placeholder, onChange, onEmpty }: NumberBoxProps) {
  const { message } = App.useApp();
  const typed = useRef<string | null>(null);
  const [fresh, setFresh] = useState(0);
  const precision = whole ? 0 : decimals;
  const finish = () => {
    const text = typed.current;
    typed.current = null;
    if (text === null) return;
    const { number, sentence } = readNumber(text, { label, min, max, precision });
    if (sentence) void message.warning(sentence);
    if (number !== null && number !== value) onChange(number);
    else if (text.trim() === '' && value !== null) onEmpty?.();
  };
  const press = (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || typed.current === null) return;
    // Gives up the number alone; a second Escape is for whatever stands around it.
    event.stopPropagation();
    typed.current = null;
    setFresh(fresh + 1);
  };
  const Numbers = locks ? EditNumber : InputNumber<number>;
  return (
    <Numbers
      key={fresh}
      autoFocus={fresh > 0}
      aria-label={label}
      min={min}
      max={max}
      step={step}
      {...(precision === undefined ? {} : { precision })}
      {...(placeholder === undefined ? {} : { placeholder })}
      disabled={disabled}
      value={value}
      parser={(text) => (readNumber(text ?? '', { label, min: -Infinity, max: Infinity }).number ?? '') as number}
      onInput={(text) => (typed.current = text)}
      onStep={(next) => {
        typed.current = null;
        if (next !== value) onChange(next);
      }}
      onBlur={finish}
      onPressEnter={finish}
      onKeyDown={press}
    />
  );
}
