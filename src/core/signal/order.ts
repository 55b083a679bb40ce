import type { RigDocument } from '../rig/document';
import { sourcesOf } from '../rig/links';

export type DerivedOrder = { ok: true; order: string[] } | { ok: false; circle: string[] };

/** The derived signals in an order in which each comes after those it reads; or a circle, first name repeated at its end. */
export function derivedOrder({ derived }: Pick<RigDocument, 'derived'>): DerivedOrder {
  const byId = new Map(derived.map((signal) => [signal.id, signal]));
  const order: string[] = [];
  const done = new Set<string>();
  const path: string[] = [];

  const visit = (id: string): string[] | null => {
    const signal = byId.get(id);
    if (!signal || done.has(id)) return null;
    const at = path.indexOf(id);
    if (at >= 0) return [...path.slice(at), id];
    path.push(id);
    for (const source of sourcesOf(signal.formula)) {
      const circle = visit(source);
      if (circle) return circle;
    }
    path.pop();
    done.add(id);
    order.push(id);
    return null;
  };
  for (const { id } of derived) {
    const circle = visit(id);
    if (circle) return { ok: false, circle };
  }
  return { ok: true, order };
}
