import { MOST_POINTS, USUAL_POINTS } from '../signal/points';
import type { SourceReport } from './feed';
import type { RigDocument, RigSignal } from '../rig/document';
import type { Change } from '../rig/edit';
import { freeId, freeName } from '../rig/naming';

/** x, y, size and whether it is in view, of each of so many points; x and y in a picture of unit size, y upwards. */
export function lightPointSources(count: number = USUAL_POINTS): SourceReport[] {
  return Array.from({ length: count }, (_, i): SourceReport[] => {
    const n = i + 1;
    const part = (key: string, name: string, rest: number): SourceReport => ({ key: `point ${n} ${key}`, name: `Point ${n} ${name}`, kind: 'continuous', unit: 'unit', range: [0, 1], rest, group: `Point ${n}` });
    return [
      { ...part('x', 'across', 0.5), pair: `point ${n} y` },
      { ...part('y', 'up', 0.5), pair: `point ${n} x` },
      part('size', 'size', 0),
      { key: `point ${n} seen`, name: `Point ${n} in view`, kind: 'gate', unit: 'unit', range: [0, 1], group: `Point ${n}` },
    ];
  }).flat();
}

/** An input for points of light at an OSC address, with all its signals. */
export function addLightPoints(rig: RigDocument, address: string, lost: 'hold' | 'rest', count: number = USUAL_POINTS): Change[] {
  const ids = new Set([...rig.inputs, ...rig.signals, ...rig.derived].map(({ id }) => id));
  const name = freeName('Light points', rig.inputs.map((input) => input.name));
  const id = freeId(name, ids);
  const sources = lightPointSources(count);
  const idOf = new Map(sources.map(({ key }) => [key, freeId(`${id}.${key.replace(/^point /, '')}`, ids)]));
  const signals = sources.map(({ key, pair, ...rest }): RigSignal => ({ id: idOf.get(key)!, input: id, ...rest, source: key, ...(pair === undefined ? {} : { pair: idOf.get(pair)! }) }));
  return [{ list: 'inputs', id, to: { id, name, kind: 'points', address, lost } }, ...signals.map((to): Change => ({ list: 'signals', id: to.id, to }))];
}

/** How many points an input for points of light tells apart: as many as the rig has signals for. */
export function pointsOf(rig: RigDocument, input: string): number {
  const numbers = rig.signals.flatMap((signal) => (signal.input === input ? [Number(/^point (\d+) /.exec(signal.source ?? '')?.[1] ?? 0)] : []));
  return Math.min(MOST_POINTS, Math.max(1, ...numbers));
}
