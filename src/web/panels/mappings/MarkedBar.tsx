import { App, Button, Input, Select } from 'antd';
import { useState } from 'react';
import { changeMappings, inGroup, onChannel } from '../../../core/mapping/bands';
import { isVoices, type EitherMapping } from '../../../core/mapping/either';
import { throughOutput } from '../../../core/ledger/throughOutput';
import { duplicateMapping, duplicateVoiceMapping } from '../../../core/rig/duplicate';
import type { RigDocument, Shaping } from '../../../core/rig/document';
import { applyEdit, type Change } from '../../../core/rig/edit';
import { remove } from '../../../core/rig/remove';
import { voicesThroughOutput } from '../../../core/voices/throughOutput';
import { NumberBox } from '../shared/NumberBox';
import { useEdit } from '../shell/useRig';
import { ApplyKept } from './KeptShapings';
import styles from './MarkedBar.module.css';
import shared from '../shared/shared.module.css';

interface MarkedBarProps {
  rig: RigDocument;
  marked: ReadonlySet<string>;
  onClear: () => void;
}

/** What can be done to all marked mappings together; each is one edit, and one undo. */
export function MarkedBar({ rig, marked, onClear }: MarkedBarProps) {
  const edit = useEdit();
  const [group, setGroup] = useState('');
  const { message } = App.useApp();
  const [channel, setChannel] = useState<number | null>(null);
  const put = (changes: Change[]) => changes.length > 0 && edit({ kind: 'change', changes });
  const each = (change: (mapping: EitherMapping) => EitherMapping) => put(changeMappings(rig, marked, change));
  const duplicate = () => put(oneByOne(rig, marked, (now, id) => [(duplicateMapping(now, id) ?? duplicateVoiceMapping(now, id))?.change].filter((change) => change !== undefined)));
  const away = () => {
    put(remove(rig, [...marked].map((id) => ({ kind: rig.mappings.some((mapping) => mapping.id === id) ? 'mapping' : 'voiceMapping', id }))));
    onClear();
  };
  return (
    <div className={styles.markedBar} role="toolbar" aria-label={`${marked.size} marked mappings`}>
      <strong role="status">{marked.size} marked</strong>
      <Button onClick={() => each((mapping) => ({ ...mapping, on: true }))}>On</Button>
      <Button onClick={() => each((mapping) => ({ ...mapping, on: false }))}>Off</Button>
      <span className={shared.inARow}>
        <NumberBox label="Channel for all" placeholder="Channel" min={1} max={16} whole value={channel} onChange={setChannel} onEmpty={() => setChannel(null)} />
        <Button onClick={() => (channel === null ? void message.info('Type a channel from 1 to 16 first.') : each((mapping) => onChannel(mapping, channel)))}>
          Set
        </Button>
      </span>
      <Select
        aria-label="Output for all"
        placeholder="Output"
        value={null}
        options={rig.outputs.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(output) => output !== null && each((mapping) => (isVoices(mapping) ? voicesThroughOutput(rig, mapping, output) : { ...mapping, ...throughOutput(rig, mapping, output) }))}
      />
      <ApplyKept onApply={(shaping: Shaping) => each((mapping) => (isVoices(mapping) ? mapping : { ...mapping, shaping }))} />
      <span className={shared.inARow}>
        <Input aria-label="Group for all" placeholder="Group" maxLength={80} value={group} onChange={({ target }) => setGroup(target.value)} />
        <Button onClick={() => each((mapping) => inGroup(mapping, group.trim() === '' ? null : group.trim()))}>{group.trim() === '' ? 'Ungroup' : 'Group'}</Button>
      </span>
      <Button onClick={duplicate}>Duplicate</Button>
      <Button danger onClick={away}>
        Delete
      </Button>
      <Button type="text" onClick={onClear}>
        Clear
      </Button>
    </div>
  );
}

/** Changes that build on each other: each is made of the rig as those before it left it. */
function oneByOne(rig: RigDocument, ids: ReadonlySet<string>, change: (rig: RigDocument, id: string) => Change[]): Change[] {
  let now = rig;
  const all: Change[] = [];
  for (const id of ids) {
    const changes = change(now, id);
    const applied = applyEdit(now, { kind: 'change', changes });
    if (!applied.ok) continue;
    now = applied.document;
    all.push(...changes);
  }
  return all;
}
