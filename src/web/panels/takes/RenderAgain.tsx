import { useQuery } from '@tanstack/react-query';
import { Button, Checkbox, Modal } from 'antd';
import { useState } from 'react';
import type { MapperChange } from '../../../core/takes/changes';
import { useRig } from '../shell/useRig';
import { fetchChanges } from './fetchTakes';

const CHANGES: Record<MapperChange['change'], string> = { changed: 'changed since', new: 'new since', gone: 'gone since' };

interface RenderAgainProps {
  id: string;
  locked: boolean;
  onRender: (asked: { name?: string; only?: string[] }) => void;
}

/** Plays the same gestures through the rig as it is now, or with some of its mappings alone. Both versions stay. */
export function RenderAgain({ id, locked, onRender }: RenderAgainProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button disabled={locked} title="Plays the same gestures through the rig as it is now; both versions stay" onClick={() => setOpen(true)}>
        Render again
      </Button>
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
  const { document: rig, revision } = useRig();
  const { data: changes } = useQuery({ queryKey: ['changes', id, revision], queryFn: () => fetchChanges(id) });
  const [left, setLeft] = useState<readonly string[]>([]);
  const chosen = (changes ?? []).filter((change) => !left.includes(change.id));
  const some = left.length > 0;
  const render = () => onRender(some ? { only: chosen.map((change) => change.id), name: `With ${chosen.map(({ name }) => name).join(', ')}`.slice(0, 60) } : {});
  return (
    <Modal open title={`Render again through ${rig.name}`} okText="Render" okButtonProps={{ disabled: changes === undefined || (some && chosen.length === 0) }} onOk={render} onCancel={onClose}>
      {changes?.length === 0 && <p>No mapping is another than when this take was recorded. Rendered all the same, through the rig as a whole, it is a version of its own.</p>}
      {(changes?.length ?? 0) > 0 && (
        <>
          <p>What is ticked counts as it is now; everything else as it was when the take began.</p>
          <ul>
            {changes!.map(({ id: mapping, name, change }) => (
              <li key={mapping}>
                <Checkbox checked={!left.includes(mapping)} onChange={({ target }) => setLeft(target.checked ? left.filter((other) => other !== mapping) : [...left, mapping])}>
                  {name}, {CHANGES[change]}
                </Checkbox>
              </li>
            ))}
          </ul>
        </>
      )}
    </Modal>
  );
}
