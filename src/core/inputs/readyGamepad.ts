import { freeControllers } from '../ledger/ledger';
import type { RigDerived, RigDocument, RigMapping, RigSignal, Shaping } from '../rig/document';
import type { Change } from '../rig/edit';
import { freeId } from '../rig/naming';
import type { MessageSpec } from '../messages';
import type { RigInput } from './kinds';
import { firstTaking } from '../rig/outputs';

/** The stick rests a little beside its middle and is worn: nothing moves there. */
const STICK: Shaping = { deadZone: { kind: 'centre', inner: 0.12, outer: 0.95 }, smoothing: { kind: 'oneEuro', minCutoffHz: 2, beta: 4, derivativeCutoffHz: 1 } };
const CHANNEL = 1;
/** The slowest and fastest note repeat, in Hz. */
const REPEAT_HZ = [2, 16] as const;

/**
 * Mappings that make a gamepad sound at once on the first output: sticks on free controllers and the bend, a chord, a
 * toggle, a note and a repeating note whose rate the right trigger gives, held steps on the direction pad, transport on
 * the small buttons. Sources that the pad does not have are left out. Empty where the rig has no output.
 */
export function readyGamepad(rig: RigDocument, input: RigInput, signals: readonly RigSignal[], ids: Set<string>): Change[] {
  const output = firstTaking(rig, 'midi')?.id;
  if (output === undefined) return [];
  const free = freeControllers(rig, output, CHANNEL);
  const bySource = (source: string) => signals.find((signal) => signal.source === source);
  const changes: Change[] = [];

  const derive = (name: string, about: Omit<RigDerived, 'id' | 'name'>): string => {
    const id = freeId(`${input.id}.${name}`, ids);
    changes.push({ list: 'derived', id, to: { id, name, ...about } });
    return id;
  };
  const map = (signal: { id: string; name: string } | undefined, message: MessageSpec | null, more: Partial<RigMapping> = {}) => {
    if (!signal || !message) return;
    const id = freeId(`${signal.id}-out`, ids);
    const to: RigMapping = { id, name: `${input.name}: ${signal.name}`, on: true, signal: signal.id, shaping: {}, message, output, ...more };
    changes.push({ list: 'mappings', id, to });
  };
  const controller = (): MessageSpec | null => {
    const number = free.shift();
    return number === undefined ? null : { kind: 'controlChange', channel: CHANNEL, controller: number, range: [0, 127] };
  };
  const note = (number: number, more: Partial<Extract<MessageSpec, { kind: 'note' }>> = {}): MessageSpec => ({ kind: 'note', channel: CHANNEL, note: number, velocity: 96, ...more });

  map(bySource('axis 0'), controller(), { shaping: STICK });
  map(bySource('axis 1'), controller(), { shaping: STICK });
  map(bySource('axis 2'), { kind: 'pitchBend', channel: CHANNEL, range: [-2, 2], unit: 'semitones' }, { shaping: STICK });
  map(bySource('axis 3'), controller(), { shaping: STICK });
  map(bySource('button 6'), controller());
  map(bySource('button 0'), note(48, { chord: [0, 7, 12] }));
  map(bySource('button 1'), note(57), { gate: { press: 'toggle' } });
  map(bySource('button 3'), note(64));
  const trigger = bySource('button 7');
  if (trigger && bySource('button 2')) {
    const [slow, fast] = REPEAT_HZ;
    const rate: Pick<RigDerived, 'kind' | 'unit' | 'range'> = { kind: 'continuous', unit: 'Hz', range: [slow, fast] };
    const least = derive('slowest repeat', { ...rate, formula: { op: 'constant', value: slow } });
    const span = derive('repeat span', { ...rate, formula: { op: 'constant', value: fast - slow } });
    const more = derive('repeat more', { ...rate, formula: { op: 'product', of: [trigger.id, span] } });
    const hz = derive('repeat rate', { ...rate, formula: { op: 'sum', of: [least, more] } });
    map(bySource('button 2'), note(72, { repeat: { rateHz: { signal: hz } } }));
  }
  const [up, down] = [bySource('button 12'), bySource('button 13')];
  if (up && down) {
    const pushes = derive('steps', { kind: 'continuous', unit: 'unit', range: [-1, 1], rest: 0, formula: { op: 'difference', of: [up.id, down.id] } });
    const height = derive('held steps', { kind: 'continuous', unit: 'unit', range: [0, 1], formula: { op: 'accumulate', of: pushes, lo: 0, hi: 1 } });
    map({ id: height, name: 'held steps' }, controller(), { shaping: { steps: { count: 17, hysteresis: 0.2 } } });
  }
  map(bySource('button 8'), { kind: 'transport', action: 'stop' });
  map(bySource('button 9'), { kind: 'transport', action: 'start' });
  map(bySource('button 10'), { kind: 'transport', action: 'continue' });
  map(bySource('button 11'), { kind: 'machine', device: 127, command: 'recordStrobe' });
  return changes;
}
