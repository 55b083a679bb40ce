import { Button, InputNumber, Segmented, Select } from 'antd';
import type { ReactNode } from 'react';
import { noteName } from '../../../core/midi/describe';
import type { MessageSpec, RigDocument, RigMapping, Shaping } from '../../../core/rig/document';
import { useEdit, useRig } from '../shell/useRig';
import { BeforeAfter } from './BeforeAfter';
import { ShapingPicture } from './ShapingPicture';
import { SmoothingFields } from './SmoothingFields';

interface ShapingPanelProps {
  mapping: RigMapping;
  rig: RigDocument;
  onClose: () => void;
}

/** Everything that can be set on one mapping; each change is heard at once. */
export function ShapingPanel({ mapping, rig, onClose }: ShapingPanelProps) {
  const { stage } = useRig();
  const edit = useEdit();
  const signal = rig.signals.find(({ id }) => id === mapping.signal)!;
  const set = (change: Partial<RigMapping>) => edit({ kind: 'setMapping', mapping: mapping.id, set: change });
  const setMessage = (message: MessageSpec) => set({ message });
  const setShaping = (shaping: Shaping) => set({ shaping });
  const rangeIn = mapping.shaping.rangeIn ?? { lo: signal.range[0], hi: signal.range[1] };

  return (
    <aside className="shaping" aria-label={`Shaping of ${mapping.name}`}>
      <header>
        <h2>{mapping.name}</h2>
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
        <Field label={`Range in (${signal.unit})`}>
          <Pair
            label="Range in"
            disabled={stage}
            values={[rangeIn.lo, rangeIn.hi]}
            step={(signal.range[1] - signal.range[0]) / 100}
            onChange={([lo, hi]) => setShaping({ ...mapping.shaping, rangeIn: { lo, hi } })}
          />
        </Field>
        <SmoothingFields shaping={mapping.shaping} disabled={stage} onChange={setShaping} />
      </fieldset>
    </aside>
  );
}

interface MessageFieldsProps {
  message: MessageSpec;
  disabled: boolean;
  onChange: (message: MessageSpec) => void;
}

function MessageFields({ message, disabled, onChange }: MessageFieldsProps) {
  const channel = (
    <Field label="Channel">
      <Whole label="Channel" min={1} max={16} disabled={disabled} value={message.channel} onChange={(value) => onChange({ ...message, channel: value })} />
    </Field>
  );
  switch (message.kind) {
    case 'controlChange': {
      const [lo, hi] = message.range;
      return (
        <>
          {channel}
          <Field label="Controller">
            <Whole label="Controller" min={0} max={119} disabled={disabled} value={message.controller} onChange={(controller) => onChange({ ...message, controller })} />
          </Field>
          <Field label="Range out">
            <Pair label="Range out" min={0} max={127} step={1} disabled={disabled} values={[lo, hi]} onChange={(range) => onChange({ ...message, range })} />
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
              onChange={(direction) => (direction === 'rising') !== lo <= hi && onChange({ ...message, range: [hi, lo] })}
            />
          </Field>
        </>
      );
    }
    case 'note':
      return (
        <>
          {channel}
          <Field label={`Note (${noteName(message.note)})`}>
            <Whole label="Note" min={0} max={127} disabled={disabled} value={message.note} onChange={(note) => onChange({ ...message, note })} />
          </Field>
          <Field label="Velocity">
            <Whole label="Velocity" min={1} max={127} disabled={disabled} value={message.velocity} onChange={(velocity) => onChange({ ...message, velocity })} />
          </Field>
        </>
      );
    default:
      return message satisfies never;
  }
}

/** A label and what it names, side by side. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="field">
      <span>{label}</span>
      {children}
    </div>
  );
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

interface PairProps {
  label: string;
  min?: number;
  max?: number;
  step: number;
  values: [number, number];
  disabled: boolean;
  onChange: (values: [number, number]) => void;
}

function Pair({ label, values: [lo, hi], onChange, ...rest }: PairProps) {
  return (
    <span className="pair">
      <InputNumber aria-label={`${label}, from`} {...rest} value={lo} onChange={(next) => next !== null && onChange([next, hi])} />
      <span aria-hidden>to</span>
      <InputNumber aria-label={`${label}, to`} {...rest} value={hi} onChange={(next) => next !== null && onChange([lo, next])} />
    </span>
  );
}
