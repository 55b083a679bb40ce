import { Button } from 'antd';
import { addMapping, proposeMessages } from '../../../core/ledger/propose';
import { addressInWords } from '../../../core/messages';
import { findSignal } from '../../../core/rig/find';
import { useEdit, useRig } from '../shell/useRig';

/** Maps a derived signal to the first message that makes sense for it; its shaping opens from the list. */
export function MapDerived({ derived }: { derived: string }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const { signal } = findSignal(rig, derived)!;
  const [output] = rig.outputs;
  const [proposal] = output ? proposeMessages(rig, signal, output.id) : [];
  if (!output || !proposal) return null;
  return (
    <Button onClick={() => edit({ kind: 'change', changes: [addMapping(rig, signal, output.id, proposal.message).change] })}>
      Map it to {output.name} · {addressInWords(proposal.message)}
    </Button>
  );
}
