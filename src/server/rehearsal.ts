import { applyEdit, type RigEdit } from '../core/rig/edit';
import type { RigDocument } from '../core/rig/document';
import { check } from '../protocol/check';
import { checkEdited, editRequestSchema } from '../protocol/rig';

/** So often the compiler has seen enough of it. */
const TIMES = 60;

/**
 * Runs what an edit runs through without making one, so that the first ones after a start are heard about as soon as the
 * later: routes and schemas are loaded and compiled only when they are needed, and again once they were used a while
 * (`npm run bench edits`). In small pieces, so that nobody waits for it.
 */
export async function rehearse(origin: string, document: RigDocument): Promise<void> {
  const [mapping] = document.mappings;
  const edit: RigEdit = mapping ? { kind: 'setMapping', mapping: mapping.id, set: { name: mapping.name, message: mapping.message } } : { kind: 'setRig', set: { name: document.name } };
  for (let i = 0; i < TIMES; i++) {
    check(editRequestSchema, { edit });
    const edited = applyEdit(document, edit);
    if (edited.ok) checkEdited(document, edited.document);
    // To be asked what it can do is enough for a route to be loaded; where nobody answers, the first edits just take longer.
    await fetch(`${origin}/api/rigs/none/edits`, { method: 'OPTIONS' }).catch(() => undefined);
  }
}
