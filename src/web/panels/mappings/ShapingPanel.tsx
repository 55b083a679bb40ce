import { Button, Dropdown, Input, InputNumber, Segmented, Select } from 'antd';
import { noteName } from '../../../core/midi/describe';
import { noteToHz } from '../../../core/units/pitch';
import type { MessageSpec, RigDocument, RigMapping, Shaping } from '../../../core/rig/document';
import { addMirror } from '../../../core/rig/addMirror';
import { duplicateMapping, removeMapping } from '../../../core/rig/duplicate';
import { findSignal } from '../../../core/rig/find';
import { NameField } from '../shared/NameField';
import { useEdit, useRig } from '../shell/useRig';
import { BeforeAfter } from './BeforeAfter';
import { Field, Pair } from './Field';
import { Fit } from './Fit';
import { Introduce } from './Introduce';
import { ShapingPicture } from './ShapingPicture';
import { ShapingSteps } from './ShapingSteps';

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
  const { stage } = useRig();
  const edit = useEdit();
  const { signal } = findSignal(rig, mapping.signal)!;
  const set = (change: Partial<RigMapping>) => edit({ kind: 'setMapping', mapping: mapping.id, set: change });
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
  const remove = () => {
    edit({ kind: 'change', changes: removeMapping(rig, mapping.id) });
    onClose();
  };
  const setMessage = (message: MessageSpec) => set({ message });
  const setShaping = (shaping: Shaping) => set({ shaping });

  return (
    <aside className="shaping" aria-label={`Shaping of ${mapping.name}`}>
      <header>
        <NameField className="mapping-name" label="Name of the mapping" name={mapping.name} readOnly={stage} onChange={(name) => set({ name })} />
        <Introduce mapping={mapping.id} />
        <Dropdown
          trigger={['click']}
          disabled={stage}
          menu={{
            items: [
              { key: 'duplicate', label: 'Duplicate, counting on', onClick: duplicate },
              { key: 'mirror', label: 'Mirror over OSC', onClick: mirror },
              { key: 'delete', label: 'Delete', danger: true, onClick: remove },
            ],
          }}
        >
          <Button aria-label={`More for ${mapping.name}`}>⋯</Button>
        </Dropdown>
        <Button type="text" aria-label="Close the shaping panel" onClick={onClose}>
          Close
        </Button>
      </header>
      <BeforeAfter key={mapping.id} mapping={mapping} signal={signal} />
      <ShapingPicture mapping={mapping} signal={signal} />
      <fieldset disabled={stage}>
        <legend>Message</legend>
        <Field label="Output">
          <Select
            aria-label="Output"
            disabled={stage}
            value={mapping.output}
            options={rig.outputs.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(output) => set({ output })}
          />
        </Field>
        <MessageFields message={mapping.message} disabled={stage} onChange={setMessage} />
      </fieldset>
      <fieldset disabled={stage}>
        <legend>Shaping</legend>
        {'input' in signal && signal.kind === 'continuous' && <Fit mapping={mapping} signal={signal} disabled={stage} onChange={setShaping} />}
        <ShapingSteps shaping={mapping.shaping} signal={signal} disabled={stage} onChange={setShaping} />
      </fieldset>
    </aside>
  );
}

interface MessageFieldsProps {
  message: MessageSpec;
  disabled: boolean;
  onChange: (message: MessageSpec) => void;
}

/** The whole numbers of a message that have a field here, in order; a message has those that it has. */
const NUMBERS = [
  { key: 'channel', label: 'Channel', min: 1, max: 16 },
  { key: 'controller', label: 'Controller', min: 0, max: 119 },
  { key: 'parameter', label: 'Parameter', min: 0, max: 16383 },
  { key: 'note', label: 'Note', min: 0, max: 127 },
  { key: 'velocity', label: 'Velocity', min: 1, max: 127 },
] as const;

function MessageFields({ message, disabled, onChange }: MessageFieldsProps) {
  const numbers = message as unknown as Record<string, unknown>;
  const set = (change: object) => onChange({ ...message, ...change } as MessageSpec);
  return (
    <>
      {NUMBERS.map(({ key, label, min, max }) => {
        const value = numbers[key];
        if (typeof value !== 'number') return null;
        const most = message.kind === 'controlChange14' && key === 'controller' ? 31 : max;
        return (
          <Field key={key} label={key === 'note' ? `${noteName(value)}, ${noteToHz(value).toFixed(0)} Hz` : label}>
            <Whole label={label} min={min} max={most} disabled={disabled} value={value} onChange={(next) => set({ [key]: next })} />
          </Field>
        );
      })}
      {message.kind === 'osc' && (
        <Field label="OSC address">
          <Input
            key={message.address}
            aria-label="OSC address"
            disabled={disabled}
            defaultValue={message.address}
            onBlur={({ target }) => target.value.trim() !== message.address && set({ address: target.value.trim() })}
            onPressEnter={({ currentTarget }) => currentTarget.blur()}
          />
        </Field>
      )}
      {'range' in message && <RangeFields message={message} range={message.range} disabled={disabled} set={set} />}
    </>
  );
}

interface RangeFieldsProps {
  message: MessageSpec;
  range: [number, number];
  disabled: boolean;
  set: (change: { range: [number, number] }) => void;
}

function RangeFields({ message, range: [lo, hi], disabled, set }: RangeFieldsProps) {
  const [min, max] = rangeLimits(message);
  return (
    <>
      <Field label="Range out">
        <Pair label="Range out" min={min} max={max} step={1} disabled={disabled} values={[lo, hi]} onChange={(range) => set({ range })} />
      </Field>
      <Field label="Direction">
        <Segmented
          aria-label="Direction"
          disabled={disabled}
          value={lo <= hi ? 'rising' : 'falling'}
          options={[
            { value: 'rising', label: 'Rising' },
            { value: 'falling', label: 'Falling' },
          ]}
          onChange={(direction) => (direction === 'rising') !== lo <= hi && set({ range: [hi, lo] })}
        />
      </Field>
    </>
  );
}

function rangeLimits(message: MessageSpec): [min: number, max: number] {
  switch (message.kind) {
    case 'pitchBend':
      return message.unit === 'semitones' ? [-96, 96] : [0, 16383];
    case 'controlChange14':
    case 'sysEx':
      return [0, 16383];
    case 'parameter':
      return [0, message.bits === 14 ? 16383 : 127];
    case 'programChange':
      return [1, 128];
    case 'osc':
      return [-1e9, 1e9];
    default:
      return [0, 127];
  }
}

interface WholeProps {
  label: string;
  min: number;
  max: number;
  value: number;
  disabled: boolean;
  onChange: (value: number) => void;
}

function Whole({ label, onChange, ...rest }: WholeProps) {
  return <InputNumber aria-label={label} precision={0} {...rest} onChange={(next) => next !== null && onChange(next)} />;
}
