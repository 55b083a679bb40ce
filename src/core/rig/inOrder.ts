export type Ordered = { ok: true; order: string[] } | { ok: false; circle: string[] };

/** Ids in an order in which each comes after those that it needs; or a circle, the first id again at its end. Others than these are no matter. */
export function inOrder(ids: readonly string[], needs: (id: string) => readonly string[]): Ordered {
  const known = new Set(ids);
  const order: string[] = [];
  const done = new Set<string>();
  const path: string[] = [];

  const visit = (id: string): string[] | null => {
    if (!known.has(id) || done.has(id)) return null;
    const at = path.indexOf(id);
    if (at >= 0) return [...path.slice(at), id];
    path.push(id);
    for (const needed of needs(id)) {
      const circle = visit(needed);
      if (circle) return circle;
    }
    path.pop();
    done.add(id);
    order.push(id);
    return null;
  };
  for (const id of ids) {
    const circle = visit(id);
    if (circle) return { ok: false, circle };
  }
  return { ok: true, order };
}
