import { ledgerRows } from '../ledger/rows';
import type { RigDocument } from './document';
import { applyEdit, type Change, type RigList } from './edit';

/** What changes would do to a rig, to be shown before they are made. */
export interface ChangeSummary {
  added: Partial<Record<RigList, number>>;
  replaced: Partial<Record<RigList, number>>;
  removed: Partial<Record<RigList, number>>;
  /** The clashes that there would be and are not now, each in words. */
  clashes: string[];
}

/** Things that would be put in their own place unchanged do not count. */
export function changeSummary(rig: RigDocument, changes: readonly Change[]): ChangeSummary {
  const summary: ChangeSummary = { added: {}, replaced: {}, removed: {}, clashes: [] };
  const count = (of: Partial<Record<RigList, number>>, list: RigList) => (of[list] = (of[list] ?? 0) + 1);
  for (const { list, id, to } of changes) {
    const before = rig[list].find((thing) => thing.id === id);
    if (to === null) count(summary.removed, list);
    else if (!before) count(summary.added, list);
    else if (JSON.stringify(before) !== JSON.stringify(to)) count(summary.replaced, list);
  }
  const applied = applyEdit(rig, { kind: 'change', changes: [...changes] });
  const clashesOf = (document: RigDocument) => ledgerRows(document).flatMap(({ state, mappingName, output, address }) => (state === 'clash' ? [`${mappingName} (${output}, ${address})`] : []));
  const known = new Set(clashesOf(rig));
  if (applied.ok) summary.clashes = clashesOf(applied.document).filter((clash) => !known.has(clash));
  return summary;
}
