import type { RigDocument, RigMapping } from './document';

/** A small named change of a rig. Plain data, and reversible: applying one gives the edit that takes it back. */
export type RigEdit =
  | { kind: 'setMapping'; mapping: string; set: Partial<Omit<RigMapping, 'id'>> }
  | { kind: 'setRig'; set: { name?: string; tempoBpm?: number } };

export type EditResult =
  | { ok: true; document: RigDocument; inverse: RigEdit }
  | { ok: false; field: string; message: string };

/** The document after the edit; the one given is left as it is. */
export function applyEdit(document: RigDocument, edit: RigEdit): EditResult {
  switch (edit.kind) {
    case 'setMapping': {
      const index = document.mappings.findIndex((mapping) => mapping.id === edit.mapping);
      const before = document.mappings[index];
      if (!before) {
        return { ok: false, field: 'edit.mapping', message: `There is no mapping "${edit.mapping}" in this rig.` };
      }
      const mappings = document.mappings.with(index, { ...before, ...edit.set });
      const inverse: RigEdit = { kind: 'setMapping', mapping: edit.mapping, set: formerValues(before, edit.set) };
      return { ok: true, document: { ...document, mappings }, inverse };
    }
    case 'setRig':
      return {
        ok: true,
        document: { ...document, ...edit.set },
        inverse: { kind: 'setRig', set: formerValues(document, edit.set) },
      };
    default:
      return edit satisfies never;
  }
}

/** What `before` holds under the keys of `set`. */
function formerValues<T extends object>(before: T, set: object): Partial<T> {
  return Object.fromEntries(Object.keys(set).map((key) => [key, before[key as keyof T]])) as Partial<T>;
}
