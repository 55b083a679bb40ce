import { App } from 'antd';
import { useState } from 'react';
import { EditInput, EditText } from './edit';

interface TextFieldProps<T> {
  label: string;
  value: string;
  maxLength?: number;
  placeholder?: string;
  /** Several lines, so that Enter begins the next one. */
  lines?: boolean;
  /** What the text means; throws an error whose message says what is wrong with it. */
  parse: (text: string) => T;
  onChange: (value: T) => void;
}

/** A line of text, or several, that counts once the field is left or Enter is pressed; what does not parse is said and put back. */
export function TextField<T>({ label, value, maxLength, placeholder, lines = false, parse, onChange }: TextFieldProps<T>) {
  const { message } = App.useApp();
  // Another key puts the field back to what it stands for: its own state would win over what is written into the element.
  const [refused, setRefused] = useState(0);
  const common = {
    'aria-label': label,
    defaultValue: value,
    ...(maxLength !== undefined && { maxLength }),
    ...(placeholder !== undefined && { placeholder }),
    onBlur: ({ target }: { target: { value: string } }) => {
      if (target.value === value) return;
      try {
        onChange(parse(target.value));
      } catch (error) {
        void message.warning((error as Error).message);
        setRefused((count) => count + 1);
      }
    },
  };
  const key = `${refused} ${value}`;
  return lines ? <EditText key={key} {...common} autoSize /> : <EditInput key={key} {...common} onPressEnter={({ currentTarget }) => currentTarget.blur()} />;
}
