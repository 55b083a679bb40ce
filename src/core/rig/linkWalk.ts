import type { Fields, Shape } from '../messages/shapes';
import type { LinkKind } from './linkKind';

/**
 * Says under which id a reference goes on, null: nowhere. `at` is its path within the thing that refers, as
 * `message.note.of`; `surface` is the one that a page is of.
 */
export type Follow = (kind: LinkKind, id: string, at: string, surface: string) => string | null;

/** A reference, or something that holds some: gives it with what `follow` said, the same object where that was nothing new. */
export type LinkWalk = (value: unknown, follow: Follow, at: string, surface: string) => unknown;

/** Where a reference went and what holds it cannot be without. */
export const GONE = Symbol('gone');

export const link =
  (kind: LinkKind): LinkWalk =>
  (id, follow, at, surface) =>
    typeof id === 'string' ? (follow(kind, id, at, surface) ?? GONE) : id;

/** What to do without: a field that is left out, one that is null then. Anything else falls with what it refers to. */
interface Field {
  walk: LinkWalk;
  without: 'leave' | 'null';
}
export const may = (walk: LinkWalk): Field => ({ walk, without: 'leave' });
export const orNull = (kind: LinkKind): Field => ({ walk: link(kind), without: 'null' });

const within = (at: string, field: string) => (at === '' ? field : `${at}.${field}`);

/** The fields of an object that refer; others, and objects that have them not, are left alone. */
export const fields = (of: Record<string, LinkWalk | Field>): LinkWalk => {
  const rows = Object.entries(of).map(([name, field]) => ({ name, ...(typeof field === 'function' ? { walk: field, without: 'fall' } : field) }));
  return (value, follow, at, surface) => {
    if (typeof value !== 'object' || value === null) return value;
    let to = value as Record<string, unknown>;
    for (const { name, walk, without } of rows) {
      const before = to[name];
      if (before === undefined) continue;
      const after = walk(before, follow, within(at, name), surface);
      if (after === before) continue;
      if (after === GONE && without === 'fall') return GONE;
      if (to === value) to = { ...to };
      if (after === GONE && without === 'leave') delete to[name];
      else to[name] = after === GONE ? null : after;
    }
    return to;
  };
};

/** A list, or an object by names of no meaning, of things that refer; one that falls goes alone, or takes all along. */
export const each = (item: LinkWalk, fall: 'alone' | 'all' = 'alone'): LinkWalk => (value, follow, at, surface) => {
  if (typeof value !== 'object' || value === null) return value;
  const isList = Array.isArray(value);
  let changed = false;
  const to: [string, unknown][] = [];
  for (const [name, before] of Object.entries(value)) {
    const after = item(before, follow, isList ? `${at}[${name}]` : within(at, name), surface);
    if (after === GONE && fall === 'all') return GONE;
    changed ||= after !== before;
    if (after !== GONE) to.push([name, after]);
  }
  if (!changed) return value;
  return isList ? to.map(([, thing]) => thing) : Object.fromEntries(to);
};

/** An object by ids; what is said of one that is gone goes. `value` may refer too, of surfaces to their pages. */
export const keys = (kind: LinkKind, value?: LinkWalk): LinkWalk => (record, follow, at, surface) => {
  let changed = false;
  const to: [string, unknown][] = [];
  for (const [id, before] of Object.entries(record as object)) {
    const key = follow(kind, id, at, surface);
    const after = key === null ? GONE : (value?.(before, follow, within(at, id), id) ?? before);
    changed ||= key !== id || after !== before;
    if (after !== GONE) to.push([key!, after]);
  }
  return changed ? Object.fromEntries(to) : record;
};

/** The references in fields that are described as shapes; a field that may be left out is, where what it needs has gone. */
export function fieldsOf(shapes: Fields): LinkWalk {
  const rows = Object.entries(shapes).flatMap(([name, shape]): [string, LinkWalk | Field][] => {
    const walk = walkOf(shape);
    return walk ? [[name, shape.optional ? may(walk) : walk]] : [];
  });
  return fields(Object.fromEntries(rows));
}

/** Null where there are none. What stands in another place by turns is looked for in all of them: it is there or not. */
function walkOf(shape: Shape): LinkWalk | null {
  switch (shape.is) {
    case 'id':
      return shape.of && link(shape.of);
    case 'object':
      return fieldsOf(shape.fields);
    case 'objectOr':
      return walkOf(shape.object);
    case 'list': {
      const item = walkOf(shape.of);
      return item && each(item, shape.loses ? 'alone' : 'all');
    }
    case 'tagged':
      return fieldsOf(Object.assign({}, ...Object.values(shape.cases)) as Fields);
    case 'having':
    case 'by':
      return walkOf(shape.then.is === 'object' && shape.otherwise.is === 'object' ? { is: 'object', fields: { ...shape.then.fields, ...shape.otherwise.fields } } : shape.then);
    default:
      return null;
  }
}
