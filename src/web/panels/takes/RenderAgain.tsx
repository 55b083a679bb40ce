import { useQuery } from '@tanstack/react-query';
import { Checkbox, Select } from 'antd';
import { useState } from 'react';
import type { MapperChange } from '../../../core/takes/changes';
import { Dialog } from '../shared/Dialog';
import { EditButton } from '../shared/edit';
import { useRig } from '../shell/useRig';
import { useStoredRigs } from '../shell/useStoredRigs';
import { fetchChanges } from './fetchTakes';
import styles from './takes.module.css';

/** Of the open rig, and of another. */
const CHANGES: Record<MapperChange['change'], { since: string; there: string }> = {
  changed: { since: 'changed since', there: 'other there' },
  new: { since: 'new since', there: 'only there' },
  gone: { since: 'gone since', there: 'not there' },
};

interface RenderAgainProps {
  id: string;
  onRender: (asked: { rig: string; name?: string; only?: string[] }) => void;
}

/** Plays the same gestures through the rig as it is now or another that is stored, or with some of its mappings alone. Both versions stay. */
export function RenderAgain({ id, onRender }: RenderAgainProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <EditButton title="Plays the same gestures through the rig as it is now; both versions stay" onClick={() => setOpen(true)}>
        Render again
      </EditButton>
      {open && (
        <Choice
          id={id}
          onClose={() => setOpen(false)}
          onRender={(asked) => {
            setOpen(false);
            onRender(asked);
          }}
        />
      )}
    </>
  );
}

function Choice({ id, onRender, onClose }: { id: string; onRender: RenderAgainProps['onRender']; onClose: () => void }) {
  const { id: openId, document: open, revision } = useRig();
  const [rig, setRig] = useState(openId);
  const rigs = useStoredRigs();
  const { data: changes } = useQuery({ queryKey: ['changes', id, rig, revision], queryFn: () => fetchChanges(id, rig) });
  const [left, setLeft] = useState<readonly string[]>([]);
  const chosen = (changes ?? []).filter((change) => !left.includes(change.id));
  const some = left.length > 0;
  const render = () => onRender({ rig, ...(some && { only: chosen.map((change) => change.id), name: `With ${chosen.map(({ name }) => name).join(', ')}`.slice(0, 60) }) });
  return (
    <Dialog title="Render again" okText="Render" okButtonProps={{ disabled: changes === undefined || (some && chosen.length === 0) }} onOk={render} onCancel={onClose}>
      <label className={styles.through}>
        Through
        <Select
          aria-label="Through which rig"
          className={styles.rig!}
          value={rig}
          options={[{ value: openId, label: `${open.name}, as it is now` }, ...rigs.filter((stored) => stored.id !== openId).map(({ id: value, name }) => ({ value, label: name }))]}
          onChange={(next: string) => {
            setRig(next);
            setLeft([]);
          }}
        />
      </label>
      {changes?.length === 0 && <p>No mapping of it is another than when this take was recorded. Rendered all the same, through the rig as a whole, it is a version of its own.</p>}
      {(changes?.length ?? 0) > 0 && (
        <>
          <p>What is ticked counts as it is there; everything else as it was when the take began.</p>
          <ul className={styles.changes}>
            {changes!.map(({ id: mapping, name, change }) => (
              <li key={mapping}>
                <Checkbox checked={!left.includes(mapping)} onChange={({ target }) => setLeft(target.checked ? left.filter((other) => other !== mapping) : [...left, mapping])}>
                  {name}, {CHANGES[change][rig === openId ? 'since' : 'there']}
                </Checkbox>
              </li>
            ))}
          </ul>
        </>
      )}
    </Dialog>
  );
}
