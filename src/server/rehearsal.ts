import { applyEdit, type RigEdit } from '../core/rig/edit';
import type { RigDocument } from '../core/rig/document';
import { check } from '../protocol/check';
import { checkEdited, editRequestSchema } from '../protocol/rig';

/**
 * Runs what an edit runs through without making one, so that the first one after a start is heard about as soon as the
 * others: the route and the schemas are loaded and compiled only when they are needed (`npm run bench edits`).
 */
export async function rehearse(origin: string, document: RigDocument): Promise<void> {
  const [mapping] = document.mappings;
  const edit: RigEdit = mapping ? { kind: 'setMapping', mapping: mapping.id, set: { name: mapping.name } } : { kind: 'setRig', set: { name: document.name } };
  check(editRequestSchema, { edit });
  const edited = applyEdit(document, edit);
  if (edited.ok) checkEdited(document, edited.document);
  // To be asked what it can do is enough for a route to be loaded; where nobody answers, the first edit just takes longer.
  await fetch(`${origin}/api/rigs/none/edits`, { method: 'OPTIONS' }).catch(() => undefined);
}
