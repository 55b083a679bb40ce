import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import type { Shaping } from '../../../core/rig/document';
import type { LibraryLine } from '../../../protocol/library';
import { deleteKept, keepInLibrary } from '../../live/fetchRig';
import { EditButton } from '../shared/edit';
import { useAttempt } from '../shared/useAttempt';
import { useLibrary } from '../shared/useLibrary';
import styles from './KeptShapings.module.css';
import shared from '../shared/shared.module.css';

type KeptShaping = Extract<LibraryLine, { kind: 'shaping' }>;

/** Chooses among the shapings that have a name. */
export function ApplyKept({ onApply }: { onApply: (shaping: Shaping) => void }) {
  const shapings = useLibrary().kept.filter((line): line is KeptShaping => line.kind === 'shaping');
  return (
    <Select
      aria-label="Use a kept shaping"
      placeholder={shapings.length === 0 ? 'No shaping is kept yet' : 'Use a kept shaping'}
      disabled={shapings.length === 0}
      value={null}
      options={shapings.map(({ id, name }) => ({ value: id, label: name }))}
      onChange={(id) => {
        const chosen = shapings.find((line) => line.id === id);
        if (chosen) onApply(chosen.shaping);
      }}
    />
  );
}

/** Keeps this shaping under a name, for other mappings and other rigs; and uses or deletes one that is kept. */
export function KeptShapings({ shaping, onApply }: { shaping: Shaping; onApply: (shaping: Shaping) => void }) {
  const { kept, changed } = useLibrary();
  const [name, setName] = useState<string | null>(null);
  const { attempt, offerBack } = useAttempt(changed);
  const keep = () => {
    if (!name?.trim()) return;
    attempt(`keep ${name}`, () => keepInLibrary(name.trim(), { kind: 'shaping', shaping }));
    setName(null);
  };
  const remove = ({ id, name: gone, shaping: content }: KeptShaping) =>
    attempt(`delete ${id}`, async () => {
      await deleteKept(id);
      offerBack(id, `The shaping ${gone} was deleted`, () => keepInLibrary(gone, { kind: 'shaping', shaping: content }));
    });
  return (
    <div className={styles.kept}>
      <ApplyKept onApply={onApply} />
      {name === null ? (
        <EditButton onClick={() => setName('')}>
          Keep this one
        </EditButton>
      ) : (
        <span className={shared.inARow}>
          <Input autoFocus aria-label="Name of the shaping" maxLength={80} value={name} onChange={({ target }) => setName(target.value)} onPressEnter={keep} />
          <Button type="primary" disabled={name.trim() === ''} onClick={keep}>
            Keep
          </Button>
        </span>
      )}
      {name !== null && (
        <ul aria-label="Kept shapings">
          {kept.map((line) =>
            line.kind === 'shaping' ? (
              <li key={line.id}>
                {line.name}{' '}
                <Button size="small" aria-label={`Delete the shaping ${line.name}`} onClick={() => remove(line)}>
                  Delete
                </Button>
              </li>
            ) : null,
          )}
        </ul>
      )}
    </div>
  );
}
