import { Button } from 'antd';
import { useState } from 'react';
import { findEither } from '../../../core/mapping/either';
import { ledgerOf } from '../../../core/ledger/ledger';
import { moveChannel } from '../../../core/ledger/moveChannel';
import { applyEdit } from '../../../core/rig/edit';
import { NumberBox } from '../shared/NumberBox';
import { EditButton } from '../shared/edit';
import { Popup } from '../shared/Popup';
import { useEdit, useRig } from '../shell/useRig';
import ledger from './ledger.module.css';
import shared from '../shared/shared.module.css';

/** Moves everything of one channel to another, after showing what would move and what it would meet. */
export function MoveChannel({ output }: { output: string }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const [open, setOpen] = useState(false);
  const [from, setFrom] = useState(1);
  const [to, setTo] = useState(15);
  const changes = from === to ? [] : moveChannel(rig, { output, from, to });
  const after = applyEdit(rig, { kind: 'change', changes });
  const clashes = after.ok ? ledgerOf(after.document).clashes.length - ledgerOf(rig).clashes.length : 0;
  const names = changes.map(({ id }) => findEither(rig, id)!.name);
  const form = (
    <div className={ledger.moveChannel}>
      <div className={shared.pair}>
        <NumberBox label="From channel" min={1} max={16} whole value={from} onChange={setFrom} />
        to
        <NumberBox label="To channel" min={1} max={16} whole value={to} onChange={setTo} />
      </div>
      <p>{from === to ? 'It is there already.' : names.length === 0 ? 'Nothing that could be moved is on this channel.' : `${names.length} ${names.length === 1 ? 'mapping moves' : 'mappings move'}: ${names.slice(0, 6).join(', ')}${names.length > 6 ? ' …' : ''}.`}</p>
      {clashes > 0 && <p data-state="clash">✕ {clashes === 1 ? 'One new clash would come of it.' : `${clashes} new clashes would come of it.`}</p>}
      <Button
        type="primary"
        disabled={changes.length === 0}
        onClick={() => {
          edit({ kind: 'change', changes });
          setOpen(false);
        }}
      >
        Move them
      </Button>
    </div>
  );
  return (
    <Popup open={open} onOpenChange={setOpen} placement="bottomRight" title="Move a whole channel" content={form}>
      <EditButton>Move a channel</EditButton>
    </Popup>
  );
}
