import { MERGES, type GateSpec, type Merge, type Motion, type RigDerived, type RigMapping, type RigSignal } from '../../../core/rig/document';
import { TextField } from '../shared/TextField';
import { Field, NumberFields } from '../shared/Field';
import { KindStep, type StepKind } from './KindStep';
import { isGateMessage } from '../../../core/messages';
import { EditSelect, EditSwitch } from '../shared/edit';

const MOTIONS: Record<Motion['kind'], StepKind<Motion>> = {
  ramp: {
    label: 'Ramp',
    fresh: { kind: 'ramp', onLevel: 1, offLevel: 0, upMs: 200, downMs: 400 },
    fields: [
      { key: 'onLevel', label: 'Level while on', min: 0, max: 1, step: 0.01 },
      { key: 'offLevel', label: 'Level while off', min: 0, max: 1, step: 0.01 },
      { key: 'upMs', label: 'Way up (ms)', min: 0, max: 60_000, step: 10 },
      { key: 'downMs', label: 'Way down (ms)', min: 0, max: 60_000, step: 10 },
    ],
  },
  climb: {
    label: 'Climb while held',
    fresh: { kind: 'climb', perS: 0.25, accelerationPerS2: 0 },
    fields: [
      { key: 'perS', label: 'Full ways a second', min: -100, max: 100, step: 0.05 },
      { key: 'accelerationPerS2', label: 'Faster by, a second', min: 0, max: 1000, step: 0.05 },
    ],
  },
};

const MERGE_WORDS: Readonly<Record<Merge, string>> = { none: 'A clash', latest: 'The latest', highest: 'The highest', lowest: 'The lowest', sum: 'The sum', average: 'The average' };
const FRESH_GATE = { on: 0.5, off: 0.4 };

interface GateFieldsProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
  /** Null takes a field away. */
  onChange: (set: { gate?: GateSpec | null; motion?: Motion | null; merge?: Merge }) => void;
}

/** On and off, what moves by itself while on, and what happens where others send to the same address. */
export function GateFields({ mapping, signal, onChange }: GateFieldsProps) {
  const { gate, motion, message } = mapping;
  const press = gate?.press ?? 'momentary';
  const on = gate?.on ?? (signal.kind === 'gate' ? 0 : FRESH_GATE.on);
  const thresholds = { on, off: gate?.off ?? (signal.kind === 'gate' ? on : Math.min(on, FRESH_GATE.off)), minOnMs: gate?.minOnMs ?? 0, minGapMs: gate?.minGapMs ?? 0 };
  const setGate = (next: GateSpec) => onChange({ gate: Object.keys(next).length === 0 ? null : next });
  const gated = signal.kind === 'gate' || gate !== undefined || isGateMessage(message, signal.kind);
  return (
    <>
      <Field label="As on and off">
        <EditSwitch aria-label="As on and off" disabled={gated && gate === undefined} checked={gated} onChange={(on) => onChange(on ? { gate: FRESH_GATE } : { gate: null, motion: null })} />
      </Field>
      {gated && (
        <>
          <NumberFields
            of={thresholds}
            fields={[
              { key: 'on', label: 'On above', min: 0, max: 1, step: 0.01 },
              { key: 'off', label: 'Off below', min: 0, max: on, step: 0.01 },
              { key: 'minOnMs', label: 'On for at least (ms)', min: 0, max: 60_000, step: 10 },
              { key: 'minGapMs', label: 'Off for at least (ms)', min: 0, max: 60_000, step: 10 },
            ]}
            onChange={(next) => setGate({ ...gate, ...differing(next, thresholds) })}
          />
          <Field label="A press">
            <EditSelect
              aria-label="What a press does"
              value={typeof press === 'string' ? press : 'radio'}
              options={[
                { value: 'momentary', label: 'holds' },
                { value: 'toggle', label: 'turns it over' },
                { value: 'radio', label: 'turns others off' },
              ]}
              onChange={(next) => setGate({ ...gate, press: next === 'radio' ? { radio: 'group-1' } : (next as 'momentary' | 'toggle') })}
            />
          </Field>
          {typeof press === 'object' && (
            <Field label="Group of those">
              <TextField label="Radio group" value={press.radio} parse={groupName} onChange={(radio) => setGate({ ...gate, press: { radio } })} />
            </Field>
          )}
          {!isGateMessage(message, signal.kind) && <KindStep label="Moves by itself" none="No" kinds={MOTIONS} value={motion} onChange={(next) => onChange({ motion: next ?? null })} />}
        </>
      )}
      {!isGateMessage(message, signal.kind) && (
        <Field label="With others on it">
          <EditSelect aria-label="Merge" value={mapping.merge ?? 'none'} options={MERGES.map((value) => ({ value, label: MERGE_WORDS[value] }))} onChange={(merge) => onChange({ merge })} />
        </Field>
      )}
    </>
  );
}

/** What was set, so that what nobody touched goes on following the kind of the signal; off never lies above on. */
function differing(next: Required<Omit<GateSpec, 'press'>>, before: Required<Omit<GateSpec, 'press'>>): GateSpec {
  const set: GateSpec = Object.fromEntries(Object.entries(next).filter(([key, value]) => value !== before[key as keyof typeof before]));
  if (next.off > next.on) return { ...set, on: next.on, off: next.on };
  return set.off === undefined ? set : { ...set, on: next.on };
}

function groupName(text: string): string {
  const group = text.trim();
  if (!/^[A-Za-z0-9][A-Za-z0-9._-]*$/.test(group)) throw new Error('A group is named with letters, digits, dots and dashes: it stays as it was.');
  return group;
}
