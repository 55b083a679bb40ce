import type { RigDocument } from '../rig/document';
import { inOrder, type Ordered } from '../rig/inOrder';
import { sourcesOf } from '../rig/links';

/** The derived signals in an order in which each comes after those it reads; or a circle, first name repeated at its end. */
export function derivedOrder({ derived }: Pick<RigDocument, 'derived'>): Ordered {
  const byId = new Map(derived.map((signal) => [signal.id, signal]));
  return inOrder([...byId.keys()], (id) => sourcesOf(byId.get(id)!.formula));
}
