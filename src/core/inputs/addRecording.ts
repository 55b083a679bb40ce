import type { RigDocument, RigSignal } from '../rig/document';
import type { Change } from '../rig/edit';
import { freeId, freeName } from '../rig/naming';

interface Recorded {
  id: string;
  name: string;
  signals: readonly { name: string; lo: number; hi: number }[];
}

/** An input that plays a recording, with a signal for each of its names; ranges are what the recording reaches. */
export function addRecording(rig: RigDocument, recorded: Recorded): Change[] {
  const ids = new Set([...rig.inputs, ...rig.signals, ...rig.derived].map(({ id }) => id));
  const name = freeName(recorded.name, rig.inputs.map((input) => input.name));
  const id = freeId(name, ids);
  const signals = recorded.signals.map(({ name: signal, lo, hi }): RigSignal => ({
    ...{ id: freeId(`${id}.${signal}`, ids), input: id, name: signal, kind: 'continuous', unit: 'unit' },
    range: hi > lo ? [lo, hi] : [Math.min(0, lo), Math.max(1, hi)],
    source: signal,
  }));
  return [{ list: 'inputs', id, to: { id, name, kind: 'recording', recording: recorded.id, speed: 1, loop: true } }, ...signals.map((to): Change => ({ list: 'signals', id: to.id, to }))];
}
