import { App } from 'antd';
import { useState } from 'react';
import { EditInput } from './edit';

interface TextFieldProps<T> {
  label: string;
  value: string;
  maxLength?: number;
  placeholder?: string;
  /** What the text means; throws an error whose message says what is wrong with it. */
  parse: (text: string) => T;
  onChange: (value: T) => void;
}

/** A line of text that counts once the field is left or Enter is pressed; what does not parse is said and put back. */
export function TextField<T>({ label, value, maxLength, placeholder, parse, onChange }: TextFieldProps<T>) {
  const { message } = App.useApp();
  // Another key puts the field back to what it stands for: its own state would win over what is written into the element.
  const [refused, setRefused] = useState(0);
  return (
    <EditInput
      key={`${refused} ${value}`}
      aria-label={label}
      defaultValue={value}
      {...(maxLength === undefined ? {} : { maxLength })}
      {...(placeholder === undefined ? {} : { placeholder })}
      onBlur={({ target }) => {
        if (target.value === value) return;
        try {
          onChange(parse(target.value));
        } catch (error) {
          void message.warning((error as Error).message);
          setRefused((count) => count + 1);
        }
      }}
      onPressEnter={({ currentTarget }) => currentTarget.blur()}
    />
  );
}
