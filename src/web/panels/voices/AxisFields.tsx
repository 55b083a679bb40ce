import { App } from 'antd';
import type { AxisMessage, VoiceAxis } from '../../../core/rig/voices';
import { AXIS_MESSAGES, axisKindsOf, isKeyController, kindOfAxis } from '../../../core/voices/axisMessages';
import { isFreePart } from '../../../core/voices/oscVoices';
import { OSC_PART } from '../../../core/messages/osc';
import { ShapingSteps } from '../mappings/ShapingSteps';
import { EditFieldset, EditSelect } from '../shared/edit';
import { Field, Pair } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { AXIS_SIGNAL } from './axisSignal';
import styles from './voices.module.css';

interface AxisFieldsProps {
  name: 'Pressure' | 'Slide';
  /** What the layout leaves as. */
  body: 'midi' | 'osc';
  axis: VoiceAxis | undefined;
  onChange: (axis: VoiceAxis | null) => void;
}

/** A controller that receivers of MPE take for the third dimension, and one that is free (engine.md, ledger rules). */
const SLIDE_CONTROLLER = 74;
const FREE_CONTROLLER = 20;

/** What pressure or slide of each voice becomes. */
export function AxisFields({ name, body, axis, onChange }: AxisFieldsProps) {
  const spoken = name.toLowerCase();
  const { message: say } = App.useApp();
  const setController = (controller: number) => {
    if (axis?.message.kind === 'keyController' && !isKeyController(controller)) return void say.warning(`No key has controller ${controller}: banks, data entry and parameters are of the channel. Nothing was changed.`);
    if (axis) onChange({ ...axis, message: { ...axis.message, controller } as AxisMessage });
  };
  const choose = (kind: AxisMessage['kind'] | 'none') => {
    if (kind === 'none') return onChange(null);
    const message = freshAxisMessage(kind, name, axis && 'controller' in axis.message ? axis.message.controller : null);
    onChange({ shaping: axis?.shaping ?? {}, message, range: message.kind === 'osc' ? [0, 1] : [0, kindOfAxis(message).most] });
  };
  return (
    <EditFieldset>
      <legend>{name}</legend>
      <Field label="Becomes">
        <EditSelect
          aria-label={`${name} becomes`}
          value={axis?.message.kind ?? 'none'}
          options={[{ value: 'none', label: 'nothing' }, ...axisKindsOf(body).map((kind) => ({ value: kind, label: AXIS_MESSAGES[kind].name }))] as { value: AxisMessage['kind'] | 'none'; label: string }[]}
          onChange={choose}
        />
      </Field>
      {axis && 'controller' in axis.message && (
        <Field label="Number">
          <NumberBox label={`Controller of ${spoken}`} whole value={axis.message.controller} min={0} max={axis.message.kind === 'controlChange14' ? 31 : 119} onChange={setController} />
        </Field>
      )}
      {axis?.message.kind === 'osc' && (
        <Field label="Called">
          <TextField label={`Last part of the address of ${spoken}`} maxLength={80} value={axis.message.part} parse={partFrom} onChange={(part) => onChange({ ...axis, message: { kind: 'osc', part } })} />
        </Field>
      )}
      {axis && (
        <>
          <Field label="Range">
            <Pair label={`Range of ${spoken}`} {...(body === 'osc' ? { step: 0.1 } : { step: 1, min: 0, max: kindOfAxis(axis.message).most })} values={axis.range} onChange={(range) => onChange({ ...axis, range })} />
          </Field>
          <details className={styles.more}>
            <summary>Shaping of {spoken}</summary>
            <ShapingSteps shaping={axis.shaping} signal={AXIS_SIGNAL} onChange={(shaping) => onChange({ ...axis, shaping })} />
          </details>
        </>
      )}
    </EditFieldset>
  );
}

function freshAxisMessage(kind: AxisMessage['kind'], name: 'Pressure' | 'Slide', known: number | null): AxisMessage {
  const controller = known ?? (kind === 'controlChange' && name === 'Slide' ? SLIDE_CONTROLLER : FREE_CONTROLLER);
  switch (kind) {
    case 'controlChange':
      return { kind, controller };
    case 'controlChange14':
      return { kind, controller: Math.min(controller, 31) };
    case 'keyController':
      return { kind, controller: isKeyController(controller) ? controller : FREE_CONTROLLER };
    case 'osc':
      return { kind, part: name.toLowerCase() };
    default:
      return { kind };
  }
}

/** Throws a sentence where the text is no part of an address. */
function partFrom(text: string): string {
  const part = text.trim().replace(/^\/+/, '');
  if (!OSC_PART.expression.test(part)) throw new Error(`“${text}” is not ${OSC_PART.words}: nothing was changed.`);
  if (!isFreePart(part)) throw new Error(`“${part}” is said of the voice itself: call it otherwise. Nothing was changed.`);
  return part;
}
