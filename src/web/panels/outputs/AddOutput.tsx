import { Button, Input, type MenuProps } from 'antd';
import { useState } from 'react';
import { addOutput, unusedPorts, type Leads } from '../../../core/outputs/addOutput';
import { shortName, type PortIdentity } from '../../../core/midi/portName';
import { useFeeds } from '../../live/feeds/FeedsProvider';
import { useOutputsState } from '../../live/useLiveFacts';
import { Dialog } from '../shared/Dialog';
import { EditMenu } from '../shared/edit';
import { useEdit, useRig, useRigNow } from '../shell/useRig';
import type { MenuParts } from '../shared/Menu';
import { networkLeads } from './networkLeads';

/** Everything that an output can lead to now, each with one click. `onAdded` is told the id of the new output; `onNetwork` opens network MIDI. */
export function AddOutput({ onAdded, onNetwork }: { onAdded: (id: string) => void; onNetwork: () => void }) {
  const { document: rig } = useRig();
  const now = useRigNow();
  const edit = useEdit();
  const [naming, setNaming] = useState(false);
  const { midiPorts, bringMidi } = useFeeds();
  const state = useOutputsState();
  const add = (leads: Leads, name: string) => {
    const { id, changes } = addOutput(now().document, leads, name);
    edit({ kind: 'change', changes });
    onAdded(id);
  };
  const portItem = (kind: 'port' | 'page', at: PortIdentity) => ({ key: `${kind} ${at.report} ${at.slot}`, label: at.slot > 1 ? `${at.report}, number ${at.slot}` : at.report, onClick: () => add({ kind, device: at }, shortName(at.report)) });
  const group = (key: string, label: string, ports: NonNullable<MenuProps['items']>, none: string) => ({ key, type: 'group' as const, label, children: ports.length > 0 ? ports : [{ key: `${key} none`, disabled: true, label: none }] });
  const ports = unusedPorts(rig, 'port', state?.ports ?? []).map((at) => portItem('port', at));
  const lent = unusedPorts(rig, 'page', state?.lent ?? []).map((at) => portItem('page', at));
  const peers = networkLeads(rig, state?.network).map(({ name, leads }) => ({ key: `network ${leads.session} ${leads.peer ?? ''}`, label: name, onClick: () => add(leads, name) }));
  const items: MenuParts['items'] = [
    group('ports', 'MIDI ports of this computer', ports, state?.usable === false ? 'This computer has none that can be used' : 'No other is here: plug one in'),
    group('lent', 'MIDI ports of browsers', [...lent, ...(midiPorts ? [] : [{ key: 'bring', label: 'Lend those of this browser…', onClick: () => void bringMidi() }])], 'This browser has no other'),
    group('network', 'Network MIDI', [...peers, { key: 'network', label: state?.network.on ? 'Connect to another…' : 'Off: switch it on…', onClick: onNetwork }], ''),
    {
      key: 'other',
      type: 'group',
      label: 'Other',
      children: [
        {
          key: 'virtual',
          disabled: state?.canMake === false || state?.usable === false,
          label: state?.canMake === false ? 'Virtual port: Windows has none; use a loop-back MIDI driver, which appears above' : 'Virtual port, for other programs here…',
          onClick: () => setNaming(true),
        },
        { key: 'osc', label: 'OSC, over the network', onClick: () => add({ kind: 'osc', host: '127.0.0.1', port: 9000 }, 'OSC') },
        { key: 'standIn', label: 'Stand-in, to practise with', onClick: () => add({ kind: 'standIn' }, 'Stand-in') },
      ],
    },
  ];
  return (
    <>
      <EditMenu items={items}>
        <Button type="primary">Add an output</Button>
      </EditMenu>
      {naming && <VirtualPort onAdd={(port) => add({ kind: 'virtual', port }, port)} onClose={() => setNaming(false)} />}
    </>
  );
}

function VirtualPort({ onAdd, onClose }: { onAdd: (port: string) => void; onClose: () => void }) {
  const [port, setPort] = useState('Pumice');
  const name = port.trim();
  const addIt = () => {
    onAdd(name);
    onClose();
  };
  return (
    <Dialog asksForText title="A port that other programs on this computer see as a MIDI device" okText="Add" okButtonProps={{ disabled: name === '' }} onOk={addIt} onCancel={onClose}>
      <Input aria-label="Name of the port" maxLength={80} value={port} onChange={({ target }) => setPort(target.value)} />
    </Dialog>
  );
}
