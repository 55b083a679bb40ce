import { Select } from 'antd';
import type { AxisMessage, VoiceAxis } from '../../../core/rig/voices';
import { AXIS_MESSAGE_KINDS, AXIS_MESSAGES, kindOfAxis } from '../../../core/voices/axisMessages';
import { ShapingSteps } from '../mappings/ShapingSteps';
import { Field, Pair } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { AXIS_SIGNAL } from './axisSignal';
import styles from './voices.module.css';

interface AxisFieldsProps {
  name: 'Pressure' | 'Slide';
  axis: VoiceAxis | undefined;
  disabled: boolean;
  onChange: (axis: VoiceAxis | null) => void;
}

/** A controller that receivers of MPE take for the third dimension, and one that is free (engine.md, ledger rules). */
const SLIDE_CONTROLLER = 74;
const FREE_CONTROLLER = 20;

/** What pressure or slide of each voice becomes. */
export function AxisFields({ name, axis, disabled, onChange }: AxisFieldsProps) {
  const spoken = name.toLowerCase();
  const choose = (kind: AxisMessage['kind'] | 'none') => {
    if (kind === 'none') return onChange(null);
    const controller = axis && 'controller' in axis.message ? axis.message.controller : kind === 'controlChange' && name === 'Slide' ? SLIDE_CONTROLLER : FREE_CONTROLLER;
    const message: AxisMessage = kind === 'controlChange' ? { kind, controller } : kind === 'controlChange14' ? { kind, controller: Math.min(controller, 31) } : { kind };
    onChange({ shaping: axis?.shaping ?? {}, message, range: [0, kindOfAxis(message).most] });
  };
  return (
    <fieldset disabled={disabled}>
      <legend>{name}</legend>
      <Field label="Becomes">
        <Select
          aria-label={`${name} becomes`}
          disabled={disabled}
          value={axis?.message.kind ?? 'none'}
          options={[{ value: 'none', label: 'nothing' }, ...AXIS_MESSAGE_KINDS.map((kind) => ({ value: kind, label: AXIS_MESSAGES[kind].name }))] as { value: AxisMessage['kind'] | 'none'; label: string }[]}
          onChange={choose}
        />
      </Field>
      {axis && 'controller' in axis.message && (
        <Field label="Number">
          <NumberBox label={`Controller of ${spoken}`} whole disabled={disabled} value={axis.message.controller} min={0} max={axis.message.kind === 'controlChange14' ? 31 : 119} onChange={(controller) => onChange({ ...axis, message: { ...axis.message, controller } as AxisMessage })} />
        </Field>
      )}
      {axis && (
        <>
          <Field label="Range">
            <Pair label={`Range of ${spoken}`} step={1} min={0} max={kindOfAxis(axis.message).most} values={axis.range} disabled={disabled} onChange={(range) => onChange({ ...axis, range })} />
          </Field>
          <details className={styles.more}>
            <summary>Shaping of {spoken}</summary>
            <ShapingSteps shaping={axis.shaping} signal={AXIS_SIGNAL} disabled={disabled} onChange={(shaping) => onChange({ ...axis, shaping })} />
          </details>
        </>
      )}
    </fieldset>
  );
}
