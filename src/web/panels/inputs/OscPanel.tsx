import { App } from 'antd';
import { useState } from 'react';
import type { OscRule } from '../../../protocol/inputSettings';
import { useInputsState } from '../../live/useLiveFacts';
import { Labelled } from '../shared/Field';
import { hostFrom, isIpAddress } from '../shared/fromText';
import { Aside } from '../shared/Aside';
import { EditButton, EditInput, EditSelect } from '../shared/edit';
import { useInputSettings } from './useInputSettings';
import shared from '../shared/shared.module.css';
import styles from './OscPanel.module.css';

/** Ports, senders and rules for OSC; and where Pumice's own addresses are described. */
export function OscPanel({ onClose }: { onClose: () => void }) {
  const { settings, change } = useInputSettings();
  const state = useInputsState();
  if (!settings) return null;
  const { oscPorts, oscSenders, oscRules } = settings;
  return (
    <Aside title="OSC settings" onClose={onClose}>
      <h3>Ports</h3>
      <ul className={shared.editable}>
        {oscPorts.map((port, i) => (
          <li key={port}>
            <span className={shared.value}>{port}</span>
            <span>{state?.oscPorts.find((one) => one.port === port)?.problem ?? (i === 0 ? 'set when Pumice starts' : '')}</span>
            {i > 0 && <Remove what={`port ${port}`} onClick={() => void change((before) => ({ oscPorts: before.oscPorts.filter((other) => other !== port) }))} />}
          </li>
        ))}
      </ul>
      <Add label="One more port" known={oscPorts} parse={portFrom} onAdd={(port) => change((before) => ({ oscPorts: [...before.oscPorts, port] }))} />
      <h3>Senders besides this computer</h3>
      {oscSenders.length === 0 && <p className={shared.empty}>None: only this computer is listened to.</p>}
      <ul className={shared.editable}>
        {oscSenders.map((sender) => (
          <li key={sender}>
            <span className={shared.value}>{sender}</span>
            <Remove what={`sender ${sender}`} onClick={() => void change((before) => ({ oscSenders: before.oscSenders.filter((other) => other !== sender) }))} />
          </li>
        ))}
      </ul>
      <Add label="Let in, by IP address" known={oscSenders} parse={senderFrom} onAdd={(sender) => change((before) => ({ oscSenders: [...before.oscSenders, sender] }))} />
      <h3>Address patterns</h3>
      <ul className={shared.editable}>
        {oscRules.map((rule, i) => (
          <li key={`${i} ${rule.pattern}`}>
            <span className={shared.value}>{rule.pattern}</span>
            <span>{rule.action === 'ignore' ? 'ignored' : `input ${rule.name}`}</span>
            <Remove what={`rule ${rule.pattern}`} onClick={() => void change((before) => ({ oscRules: before.oscRules.filter((other) => JSON.stringify(other) !== JSON.stringify(rule)) }))} />
          </li>
        ))}
      </ul>
      <AddRule onAdd={(rule) => change((before) => ({ oscRules: [...before.oscRules, rule] }))} />
      <h3>Driving Pumice</h3>
      <p>
        Every control and scene has an OSC address of its own: <a href="/api/osc">the list</a>.
      </p>
    </Aside>
  );
}

function Remove({ what, onClick }: { what: string; onClick: () => void }) {
  return (
    <EditButton type="text" aria-label={`Remove ${what}`} onClick={onClick}>
      ✕
    </EditButton>
  );
}

/** One more of a list, once the field is left or Enter is pressed; what is none is said, and stays to be put right. */
function Add<T extends string | number>({ label, known, parse, onAdd }: { label: string; known: readonly T[]; parse: (text: string) => T; onAdd: (value: T) => Promise<void> }) {
  const { message } = App.useApp();
  const [draft, setDraft] = useState('');
  const add = () => {
    if (draft.trim() === '') return;
    try {
      const value = parse(draft.trim());
      if (known.includes(value)) throw new Error(`${value} is in the list already.`);
      void onAdd(value);
      setDraft('');
    } catch (error) {
      void message.warning((error as Error).message);
    }
  };
  return (
    <Labelled label={label}>
      <EditInput value={draft} onChange={({ target }) => setDraft(target.value)} onPressEnter={add} onBlur={add} />
    </Labelled>
  );
}

function portFrom(text: string): number {
  const port = Number(text);
  if (!Number.isInteger(port) || port < 1024 || port > 65_535) throw new Error(`A port is a whole number from 1024 to 65535, and “${text.slice(0, 30)}” is none: nothing was added.`);
  return port;
}

function senderFrom(text: string): string {
  const sender = hostFrom(text);
  if (!isIpAddress(sender)) throw new Error(`An IP address looks like 192.168.1.20, and “${text.slice(0, 30)}” is none: nobody was let in.`);
  return sender;
}

function AddRule({ onAdd }: { onAdd: (rule: OscRule) => Promise<void> }) {
  const [pattern, setPattern] = useState('');
  const [action, setAction] = useState<OscRule['action']>('ignore');
  const [name, setName] = useState('');
  const add = () => {
    if (pattern === '' || (action === 'group' && name.trim() === '')) return;
    void onAdd(action === 'ignore' ? { pattern, action } : { pattern, action, name: name.trim() });
    setPattern('');
    setName('');
  };
  return (
    <div className={styles.addRule}>
      <EditInput aria-label="Address pattern" placeholder="/rail/*" value={pattern} onChange={({ target }) => setPattern(target.value.trim())} />
      <EditSelect
        aria-label="What to do with it"
        value={action}
        onChange={setAction}
        options={[
          { value: 'ignore', label: 'ignore' },
          { value: 'group', label: 'one input' },
        ]}
      />
      {action === 'group' && <EditInput aria-label="Name of the input" placeholder="Name" value={name} onChange={({ target }) => setName(target.value)} />}
      <EditButton disabled={pattern === ''} onClick={add}>
        Add
      </EditButton>
    </div>
  );
}
