import type { RigDocument, RigSurface } from '../rig/document';
import { applyEdit, type Change } from '../rig/edit';
import { freeId } from '../rig/naming';

/**
 * A rig that is changed step by step, each step seeing what the ones before it made, so that numbers count on; at the end
 * all steps are one edit.
 */
export class Workbench {
  private readonly changes: Change[] = [];

  constructor(
    public rig: RigDocument,
    private readonly first = rig,
  ) {}

  put(...changes: Change[]): void {
    const applied = applyEdit(this.rig, { kind: 'change', changes });
    if (!applied.ok) throw new Error(applied.message);
    this.rig = applied.document;
    this.changes.push(...changes);
  }

  surface(id: string): RigSurface {
    const found = this.rig.surfaces.find((surface) => surface.id === id);
    if (!found) throw new Error(`There is no surface "${id}" in this rig.`);
    return found;
  }

  /** The input that a surface is; made where there is none. */
  inputOf(surface: RigSurface): string {
    const known = this.rig.inputs.find((input) => input.kind === 'surface' && input.surface === surface.id);
    if (known) return known.id;
    const id = freeId(surface.name, new Set(this.rig.inputs.map((input) => input.id)));
    this.put({ list: 'inputs', id, to: { id, name: surface.name, kind: 'surface', surface: surface.id } });
    return id;
  }

  /** All steps as one edit, with one change for each thing: a surface that was put twenty times is sent once. */
  get squeezed(): Change[] {
    const last = new Map<string, Change>();
    for (const change of this.changes) {
      const key = `${change.list} ${change.id}`;
      const before = last.get(key);
      last.set(key, change.at === undefined && before?.at !== undefined ? ({ ...change, at: before.at } as Change) : change);
    }
    // What was made on the way and is gone again was never there.
    return [...last.values()].filter(({ list, id, to }) => to !== null || this.first[list].some((thing) => thing.id === id));
  }
}
