import { useState } from 'react';
import { useEdit, useRig } from './useRig';

/** The name of the rig, to be written over on the Bench, and when it was saved. */
export function RigName() {
  const { document, savedAtMs, stage } = useRig();
  const edit = useEdit();
  const [draft, setDraft] = useState<string | null>(null);

  const finish = () => {
    const name = draft?.trim();
    if (name && name !== document.name) edit({ kind: 'setRig', set: { name } });
    setDraft(null);
  };
  return (
    <div className="rig-name">
      <input
        aria-label="Name of the rig"
        maxLength={80}
        readOnly={stage}
        value={draft ?? document.name}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={finish}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key === 'Escape') setDraft(null);
        }}
      />
      <span suppressHydrationWarning>saved {new Date(savedAtMs).toLocaleTimeString('en-GB')}</span>
    </div>
  );
}
