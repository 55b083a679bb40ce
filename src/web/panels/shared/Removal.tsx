import { useState } from 'react';
import type { Change } from '../../../core/rig/edit';
import { useEdit } from '../shell/useRig';
import { Dialog } from './Dialog';
import { EditButton } from './edit';

export interface RemovalProps {
  name: string;
  /** What takes it away, with all that hangs on it as the rig is now. */
  changes: () => Change[];
  /** A sentence that says what goes with it. */
  goesWith: (changes: readonly Change[]) => string;
  onRemoved: () => void;
}

/** Removes something, once it was said what goes with it. */
export function Removal({ name, changes, goesWith, onRemoved }: RemovalProps) {
  const edit = useEdit();
  const [asking, setAsking] = useState(false);
  // Somebody else may change the rig while it is asked about.
  const going = asking ? changes() : null;
  return (
    <>
      <h3>Remove</h3>
      <EditButton danger onClick={() => setAsking(true)}>
        Remove {name}
      </EditButton>
      {going && (
        <Dialog
          title={`Remove ${name}?`}
          okText="Remove"
          onCancel={() => setAsking(false)}
          onOk={() => {
            edit({ kind: 'change', changes: going });
            onRemoved();
          }}
        >
          {goesWith(going)}
        </Dialog>
      )}
    </>
  );
}
