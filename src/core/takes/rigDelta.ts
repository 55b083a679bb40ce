import type { RigDocument } from '../rig/document';

interface Thing {
  id: string;
}

/** What became other: a whole field, or of a list of things those that are new or other, with the order of all. */
export type RigDelta = Record<string, { to: unknown } | { gone: true } | { order: string[]; things: Thing[] }>;

/** What makes one document of another; much less than the document where little was edited. */
export function rigDelta(before: RigDocument, after: RigDocument): RigDelta {
  const delta: RigDelta = {};
  const [was, is] = [before, after] as unknown as Record<string, unknown>[] as [Record<string, unknown>, Record<string, unknown>];
  for (const field of Object.keys(was)) if (!(field in is)) delta[field] = { gone: true };
  for (const [field, to] of Object.entries(is)) {
    const from = was[field];
    if (isSame(from, to)) continue;
    if (!isThings(from) || !isThings(to)) delta[field] = { to };
    else {
      const known = new Map(from.map((thing) => [thing.id, thing]));
      delta[field] = { order: to.map(({ id }) => id), things: to.filter((thing) => !isSame(known.get(thing.id), thing)) };
    }
  }
  return delta;
}

/** The document after; the one given is left as it is. Throws where the delta is of another document. */
export function applyRigDelta(before: RigDocument, delta: RigDelta): RigDocument {
  const after: Record<string, unknown> = { ...before };
  for (const [field, change] of Object.entries(delta)) {
    if ('gone' in change) delete after[field];
    else if ('to' in change) after[field] = change.to;
    else {
      const things = new Map([...(after[field] as Thing[]), ...change.things].map((thing) => [thing.id, thing]));
      after[field] = change.order.map((id) => {
        const thing = things.get(id);
        if (!thing) throw new Error(`An edit of the rig names "${id}" among its ${field}, which is not there.`);
        return thing;
      });
    }
  }
  return after as unknown as RigDocument;
}

const isSame = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

/** A list of things with ids that are all others. */
function isThings(list: unknown): list is Thing[] {
  return Array.isArray(list) && list.every((thing: unknown) => typeof (thing as Thing | null)?.id === 'string') && new Set(list.map((thing: Thing) => thing.id)).size === list.length;
}
