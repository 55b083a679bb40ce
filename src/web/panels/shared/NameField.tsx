import { useState } from 'react';
import { LIMITS } from '../../../protocol/limits';

interface NameFieldProps {
  label: string;
  name: string;
  className?: string;
  readOnly: boolean;
  onChange: (name: string) => void;
}

/** A name that is written over where it stands: Enter keeps it, Escape leaves it; an empty one is not taken. */
export function NameField({ label, name, className, readOnly, onChange }: NameFieldProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const finish = () => {
    const next = draft?.trim();
    if (next && next !== name) onChange(next);
    setDraft(null);
  };
  return (
    <input
      aria-label={label}
      className={className}
      maxLength={LIMITS.nameLength}
      readOnly={readOnly}
      value={draft ?? name}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') setDraft(null);
      }}
    />
  );
}
