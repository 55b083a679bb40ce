import { Switch } from 'antd';
import { useState } from 'react';
import { addMirror } from '../../../core/rig/addMirror';
import { SIGNAL_UNITS, type RigSignal } from '../../../core/rig/document';
import { zeroedAt } from '../../../core/signal/calibration';
import type { Fields } from '../../../core/rig/edit';
import { useLive } from '../../live/LiveProvider';
import { useHeldBack } from '../../live/useLiveFacts';
import { Field, Labelled } from '../shared/Field';
import { SignalTrace } from '../shared/SignalTrace';
import { useEdit, useRig } from '../shell/useRig';
import { Aside } from '../shared/Aside';
import { EditButton, EditInput, EditSelect, EditSwitch } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { hostFrom, nameFrom } from '../shared/fromText';
import { TextField } from '../shared/TextField';
import { LiveNumber } from '../shared/LiveNumber';
import styles from './SignalPanel.module.css';
import shared from '../shared/shared.module.css';

/** One signal: name, unit, range, group; hidden or held back; its calibration; sent on over OSC. */
export function SignalPanel({ signal, onClose }: { signal: RigSignal; onClose: () => void }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const live = useLive();
  const held = useHeldBack();
  const set = (fields: Fields<Omit<RigSignal, 'id'>>) => edit({ kind: 'setSignal', signal: signal.id, set: fields });
  const [lo, hi] = signal.range;
  const used = rig.mappings.filter((mapping) => mapping.signal === signal.id);
  return (
    <Aside title={signal.name} onClose={onClose}>
      <div className={styles.bigValue}>
        <LiveNumber signal={signal} /> <span className={shared.unit}>{signal.unit === 'unit' ? '' : signal.unit}</span>
      </div>
      <SignalTrace signal={signal} />
      <Labelled label="Name">
        <TextField label="Name of the signal" value={signal.name} maxLength={80} parse={nameFrom} onChange={(name) => set({ name })} />
      </Labelled>
      <Labelled label="Unit">
        <EditSelect aria-label="Unit" value={signal.unit} options={SIGNAL_UNITS.map((value) => ({ value, label: value === 'unit' ? 'none' : value }))} onChange={(unit) => set({ unit })} />
      </Labelled>
      <Field label="Range">
        <span className={shared.pair}>
          <NumberBox label="Range from" min={-1e9} max={1e9} value={lo} onChange={(value) => set({ range: [value, hi] })} />
          to
          <NumberBox label="Range to" min={-1e9} max={1e9} value={hi} onChange={(value) => set({ range: [lo, value] })} />
        </span>
      </Field>
      <Labelled label="Listed under">
        <TextField label="Listed under" value={signal.group ?? ''} maxLength={80} parse={(text) => text.trim()} onChange={(group) => set({ group: group === '' ? null : group })} />
      </Labelled>
      <Labelled label="Hidden">
        <EditSwitch checked={signal.hidden === true} onChange={(hidden) => set({ hidden: hidden || null })} />
      </Labelled>
      <Labelled label="Hold back">
        <Switch checked={held.includes(signal.id)} onChange={(on) => live.holdBack(on ? [...held, signal.id] : held.filter((id) => id !== signal.id))} />
      </Labelled>
      {held.includes(signal.id) && <p className={shared.hint}>Held back as long as this page is open: nothing that it drives moves.</p>}
      {signal.unit === 'deg' && (
        <EditButton onClick={() => set({ calibration: zeroedAt(signal.calibration, live.store.signals.value(signal.id) ?? 0) })}>
          This is zero
        </EditButton>
      )}
      {signal.calibration && (
        <EditButton onClick={() => set({ calibration: null })}>
          Take the calibration away
        </EditButton>
      )}
      <h3>Drives</h3>
      {used.length === 0 ? (
        <p className={shared.empty}>Nothing yet.</p>
      ) : (
        <ul>
          {used.map(({ id, name }) => (
            <li key={id}>{name}</li>
          ))}
        </ul>
      )}
      <Mirror signal={signal} />
    </Aside>
  );
}

/** Sends the signal on to another program or device. */
function Mirror({ signal }: { signal: RigSignal }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const [host, setHost] = useState('127.0.0.1');
  const [port, setPort] = useState<number | null>(9500);
  const [address, setAddress] = useState(`/out/${signal.id.replace(/[.]/g, '/')}`);
  const isAddress = /^\/\S+$/.test(address);
  return (
    <>
      <h3>Mirror over OSC</h3>
      <Field label="To">
        <span className={shared.pair}>
          <EditInput aria-label="Host" value={host} onChange={({ target }) => setHost(target.value)} />:
          <NumberBox label="Port" min={1} max={65535} whole value={port} onChange={setPort} onEmpty={() => setPort(null)} />
        </span>
      </Field>
      <Labelled label="Address">
        <EditInput status={isAddress ? '' : 'error'} value={address} onChange={({ target }) => setAddress(target.value.trim())} />
      </Labelled>
      <EditButton
        disabled={!isAddress || port === null || host.trim() === ''}
        onClick={() => {
          const changes = addMirror(rig, signal.id, { host: hostFrom(host), port: port!, address });
          if (changes) edit({ kind: 'change', changes });
        }}
      >
        Mirror it
      </EditButton>
    </>
  );
}
