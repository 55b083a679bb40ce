import { Button } from 'antd';
import type { RigDocument, RigMapping, Shaping } from '../../../core/rig/document';
import { addMirror } from '../../../core/rig/addMirror';
import { throughOutput, withMessage } from '../../../core/ledger/throughOutput';
import { duplicateMapping } from '../../../core/rig/duplicate';
import { remove } from '../../../core/rig/remove';
import { findSignal } from '../../../core/rig/find';
import type { Fields } from '../../../core/rig/edit';
import { TextField } from '../shared/TextField';
import { LIMITS } from '../../../protocol/limits';
import { NameField } from '../shared/NameField';
import { useEdit } from '../shell/useRig';
import { BeforeAfter } from './BeforeAfter';
import { Field } from '../shared/Field';
import { Fit } from './Fit';
import { GateFields } from './GateFields';
import { Introduce } from './Introduce';
import { KeptShapings } from './KeptShapings';
import { MessageFields } from '../shared/MessageFields';
import { ShapingHandles } from './ShapingHandles';
import { ShownOnFields } from './ShownOnFields';
import { ShapingSteps } from './ShapingSteps';
import { nextOnStage } from '../../../core/mapping/onStage';
import { EditFieldset, EditMenu, EditSelect, EditSwitch } from '../shared/edit';
import { usePanel } from '../shared/usePanel';
import shaping from './shaping.module.css';

/** Where a mirror goes while the rig has no OSC output yet. */
const MIRROR_PORT = 9500;

interface ShapingPanelProps {
  mapping: RigMapping;
  rig: RigDocument;
  onOpen: (mapping: string) => void;
  onClose: () => void;
}

/** Everything that can be set on one mapping; each change is heard at once. */
export function ShapingPanel({ mapping, rig, onOpen, onClose }: ShapingPanelProps) {
  const edit = useEdit();
  const { signal } = findSignal(rig, mapping.signal)!;
  const set = (change: Fields<Omit<RigMapping, 'id'>>) => edit({ kind: 'setMapping', mapping: mapping.id, set: change });
  const duplicate = () => {
    const copy = duplicateMapping(rig, mapping.id);
    if (!copy) return;
    edit({ kind: 'change', changes: [copy.change] });
    onOpen(copy.id);
  };
  const mirror = () => {
    const known = rig.outputs.find((output) => output.kind === 'osc');
    const changes = addMirror(rig, mapping.signal, { host: known?.host ?? '127.0.0.1', port: known?.port ?? MIRROR_PORT, address: `/out/${mapping.id}` }, mapping);
    const made = changes?.at(-1);
    if (!changes || !made) return;
    edit({ kind: 'change', changes });
    onOpen(made.id);
  };
  const away = () => {
    edit({ kind: 'change', changes: remove(rig, [{ kind: 'mapping', id: mapping.id }]) });
    onClose();
  };
  const setShaping = (shaping: Shaping) => set({ shaping });

  const panel = usePanel<HTMLElement>(onClose);
  return (
    <aside ref={panel} tabIndex={-1} className={shaping.shaping} aria-label={`Shaping of ${mapping.name}`}>
      <header>
        <NameField className={shaping.name} label="Name of the mapping" name={mapping.name} onChange={(name) => set({ name })} />
        <Introduce mapping={mapping.id} />
        <EditMenu
          items={[
            { key: 'duplicate', label: 'Duplicate, counting on', onClick: duplicate },
            { key: 'mirror', label: 'Mirror over OSC', onClick: mirror },
            { key: 'delete', label: 'Delete', danger: true, onClick: away },
          ]}
        >
          <Button aria-label={`More for ${mapping.name}`}>⋯</Button>
        </EditMenu>
        <Button type="text" aria-label="Close the shaping panel" onClick={onClose}>
          Close
        </Button>
      </header>
      <BeforeAfter mapping={mapping} signal={signal} />
      <ShapingHandles mapping={mapping} signal={signal} onChange={setShaping} />
      <EditFieldset>
        <legend>Message</legend>
        <Field label="Output">
          <EditSelect
            aria-label="Output"
            value={mapping.output}
            options={rig.outputs.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(output) => set(throughOutput(rig, mapping, output))}
          />
        </Field>
        <MessageFields message={mapping.message} mapping={mapping.id} rig={rig} output={mapping.output} onChange={(message) => set(withMessage(rig, mapping, message))} />
      </EditFieldset>
      <EditFieldset>
        <legend>On and off</legend>
        <GateFields mapping={mapping} signal={signal} onChange={set} />
      </EditFieldset>
      <EditFieldset>
        <legend>Shaping</legend>
        {'input' in signal && signal.kind === 'continuous' && <Fit mapping={mapping} signal={signal} onChange={setShaping} />}
        <KeptShapings shaping={mapping.shaping} onApply={setShaping} />
        <ShapingSteps shaping={mapping.shaping} signal={signal} onChange={setShaping} />
      </EditFieldset>
      <EditFieldset>
        <legend>Lamps and motors</legend>
        <ShownOnFields rig={rig} shownOn={mapping.shownOn} onChange={(shownOn) => set({ shownOn })} />
      </EditFieldset>
      <EditFieldset>
        <legend>In the list</legend>
        <Field label="Signal">
          <EditSelect
            aria-label="Signal"
            showSearch={{ optionFilterProp: 'label' }}
            value={mapping.signal}
            options={[...rig.signals, ...rig.derived].map(({ id, name }) => ({ value: id, label: `${findSignal(rig, id)!.from} · ${name}` }))}
            onChange={(next) => set({ signal: next })}
          />
        </Field>
        <Field label="On Stage">
          <EditSwitch aria-label="Shown large on Stage" checked={mapping.onStage !== undefined} onChange={(on) => set({ onStage: on ? nextOnStage(rig.mappings) : null })} />
        </Field>
        <Field label="Group">
          <TextField label="Group" maxLength={LIMITS.nameLength} value={mapping.group ?? ''} parse={(text) => text.trim()} onChange={(group) => set({ group: group === '' ? null : group })} />
        </Field>
        <TextField
          key={mapping.id}
          label="Notes"
          placeholder="Notes: what this is for, what to mind"
          maxLength={LIMITS.remarkLength}
          lines={{ minRows: 2, maxRows: 8 }}
          value={mapping.remark ?? ''}
          parse={(text) => text.trim()}
          onChange={(remark) => set({ remark: remark === '' ? null : remark })}
        />
      </EditFieldset>
    </aside>
  );
}
