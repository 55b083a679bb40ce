import { App } from 'antd';
import { useState } from 'react';
import { LIMITS } from '../../../protocol/limits';
import { useLocked } from './edit';

interface NameFieldProps {
  label: string;
  name: string;
  className?: string;
  onChange: (name: string) => void;
}

/** A name that is written over where it stands: Enter keeps it, Escape leaves it; an empty one is not taken. */
export function NameField({ label, name, className, onChange }: NameFieldProps) {
  const { message } = App.useApp();
  const locked = useLocked();
  const [draft, setDraft] = useState<string | null>(null);
  const finish = () => {
    const next = draft?.trim();
    if (next && next.length > LIMITS.nameLength) void message.warning(`A name has at most ${LIMITS.nameLength} characters, and this one has ${next.length.toLocaleString('en')}: it stays ${name}.`);
    else if (next && next !== name) onChange(next);
    setDraft(null);
  };
  return (
    <input
      aria-label={label}
      className={className}
      readOnly={locked}
      value={draft ?? name}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key !== 'Escape' || draft === null) return;
        // A second Escape is for whatever stands around it.
        event.stopPropagation();
        setDraft(null);
      }}
    />
  );
}
