import { App, type InputRef } from 'antd';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { EditInput, EditText } from './edit';

interface TextFieldProps<T> {
  label: string;
  value: string;
  maxLength?: number;
  placeholder?: string;
  /** Several lines, as many as are written within these, so that Enter begins the next one. */
  lines?: { minRows: number; maxRows?: number };
  /** What the text means; throws an error whose message says what is wrong with it. */
  parse: (text: string) => T;
  onChange: (value: T) => void;
}

/**
 * A line of text, or several, that counts once the field is left or Enter is pressed; what does not parse is said and put back. Escape
 * gives up a line that was typed; of several, which nobody would type again, it leaves the field.
 */
export function TextField<T>({ label, value, maxLength, placeholder, lines, parse, onChange }: TextFieldProps<T>) {
  const { message } = App.useApp();
  // Another key puts the field back to what it stands for: its own state would win over what is written into the element.
  const [fresh, setFresh] = useState({ count: 0, focus: false });
  const putBack = (focus: boolean) => setFresh(({ count }) => ({ count: count + 1, focus }));
  const line = useRef<InputRef>(null);
  useEffect(() => {
    if (fresh.focus) line.current?.focus();
  }, [fresh]);
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
        putBack(false);
      }
    },
    onKeyDown: (event: KeyboardEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      if (event.key !== 'Escape' || event.currentTarget.value === value) return;
      // A second Escape is for whatever stands around it.
      event.stopPropagation();
      if (lines) event.currentTarget.blur();
      else putBack(true);
    },
  };
  const key = `${fresh.count} ${value}`;
  const finish = (event: KeyboardEvent<HTMLInputElement>) => {
    // It is this line alone that is done with, not the window that it stands in.
    event.preventDefault();
    event.currentTarget.blur();
  };
  return lines ? <EditText key={key} {...common} autoSize={lines} /> : <EditInput key={key} ref={line} {...common} onPressEnter={finish} />;
}
