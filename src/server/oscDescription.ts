import { ownAddresses, type OwnAddress } from '../core/osc/namespace';
import type { RigDocument } from '../core/rig/document';

/** A node of the tree, with the attribute names of the OSCQuery proposal. ACCESS: 0 a folder, 2 can be written, 3 both. */
export interface OscNode {
  FULL_PATH: string;
  ACCESS: 0 | 2 | 3;
  DESCRIPTION?: string;
  TYPE?: string;
  VALUE?: number[];
  RANGE?: { MIN: number; MAX: number }[];
  CONTENTS?: Record<string, OscNode>;
}

/** The branch at a path of everything that OSC can move in a rig, or null where there is none. */
export function oscDescription(rig: RigDocument, values: Readonly<Record<string, number>>, path: string): OscNode | null {
  const root: OscNode = { FULL_PATH: '/', ACCESS: 0, CONTENTS: {} };
  for (const own of ownAddresses(rig)) {
    let node = root;
    const parts = own.address.split('/').slice(1);
    parts.forEach((part, i) => {
      const contents = (node.CONTENTS ??= {});
      node = contents[part] ??= { FULL_PATH: `/${parts.slice(0, i + 1).join('/')}`, ACCESS: 0 };
    });
    Object.assign(node, leaf(own, values));
  }
  let found: OscNode | undefined = root;
  for (const part of path.split('/').filter((each) => each !== '')) found = found?.CONTENTS?.[part];
  return found ?? null;
}

function leaf(own: OwnAddress, values: Readonly<Record<string, number>>): Partial<OscNode> {
  const { description: DESCRIPTION } = own;
  if (own.kind !== 'signal') return { ACCESS: 2, DESCRIPTION, TYPE: own.kind === 'record' ? 'f' : 'N' };
  const { range, id, rest, kind } = own.signal;
  const [MIN, MAX] = [Math.min(...range), Math.max(...range)];
  const value = values[id] ?? rest ?? range[0];
  return { ACCESS: 3, DESCRIPTION, TYPE: 'f', RANGE: [{ MIN, MAX }], ...(kind === 'continuous' ? { VALUE: [value] } : {}) };
}
