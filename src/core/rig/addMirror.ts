import type { RigDocument, RigMapping } from './document';
import type { RigOutput } from '../outputs/kinds';
import type { Change } from './edit';
import { mappingIds } from './find';
import { freeId } from './naming';

export interface MirrorTarget {
  host: string;
  port: number;
  address: string;
}

/**
 * Sends a signal on over OSC, in its own unit: a mapping with an OSC message, on the output for that target, which is made
 * where the rig has none. With a mapping its shaped level from 0 to 1 is sent. Null where there is no such signal.
 */
export function addMirror(rig: RigDocument, signalId: string, { host, port, address }: MirrorTarget, of?: RigMapping): Change[] | null {
  const signal = [...rig.signals, ...rig.derived].find(({ id }) => id === signalId);
  if (!signal) return null;
  const ids = new Set([...[...rig.outputs, ...rig.receivers].map(({ id }) => id), ...mappingIds(rig)]);
  const known = rig.outputs.find((output) => output.kind === 'osc' && output.host === host && output.port === port);
  const changes: Change[] = [];
  let output = known?.id;
  if (output === undefined) {
    const name = `OSC to ${host}:${port}`;
    const receiver = freeId(`osc-${host}-${port}`, ids);
    changes.push({ list: 'receivers', id: receiver, to: { id: receiver, name, about: 'Hears signals over OSC', bendRangeSemitones: 2 } });
    const made: RigOutput = { id: freeId(`${receiver}-out`, ids), name, receiver, kind: 'osc', host, port };
    changes.push({ list: 'outputs', id: made.id, to: made });
    output = made.id;
  }
  const id = freeId(`${of?.id ?? signalId}-mirror`, ids);
  const range: [number, number] = of ? [0, 1] : signal.range;
  changes.push({
    list: 'mappings',
    id,
    to: { id, name: `${of?.name ?? signal.name} mirrored`, on: true, signal: signalId, shaping: of?.shaping ?? {}, message: { kind: 'osc', address, arguments: [{ type: 'f', value: 'value' }], range }, output },
  });
  return changes;
}
