import type { RigDocument, RigMapping } from '../rig/document';
import type { RigVoiceMapping } from '../rig/voices';
import type { Change } from '../rig/edit';

/** What the list of mappings shows, from top to bottom: headings of groups, the mappings beneath, and behind them the voice mappings. */
export type BandRow = { kind: 'heading'; group: string; count: number; folded: boolean } | { kind: 'band'; mapping: RigMapping } | { kind: 'voices'; mapping: RigVoiceMapping };

/** Mappings without a group come first; each group stands where its first mapping does. Folded groups show their heading alone. */
export function bandRows(mappings: readonly RigMapping[], folded: ReadonlySet<string>, voices: readonly RigVoiceMapping[] = []): BandRow[] {
  const groups = new Map<string, BandRow[]>();
  const rows: BandRow[] = [];
  const put = (group: string | undefined, row: BandRow) => (group === undefined ? rows.push(row) : groups.set(group, [...(groups.get(group) ?? []), row]));
  for (const mapping of mappings) put(mapping.group, { kind: 'band', mapping });
  for (const mapping of voices) put(mapping.group, { kind: 'voices', mapping });
  for (const [group, members] of groups) {
    rows.push({ kind: 'heading', group, count: members.length, folded: folded.has(group) });
    if (!folded.has(group)) rows.push(...members);
  }
  return rows;
}

/**
 * What to change so that a mapping stands where another one does now, and belongs to the group of that one. Nothing where
 * it is there already.
 */
export function moveMapping(rig: RigDocument, id: string, onto: string): Change[] {
  const to = rig.mappings.findIndex((mapping) => mapping.id === onto);
  const moved = rig.mappings.find((mapping) => mapping.id === id);
  if (!moved || to < 0 || id === onto) return [];
  const { group } = rig.mappings[to]!;
  const others = { ...moved };
  delete others.group;
  return [{ list: 'mappings', id, to: group === undefined ? others : { ...others, group }, at: to }];
}

/** One change for each of many mappings. */
export function changeMappings(rig: RigDocument, ids: ReadonlySet<string>, change: (mapping: RigMapping) => RigMapping): Change[] {
  return rig.mappings.flatMap((mapping): Change[] => {
    if (!ids.has(mapping.id)) return [];
    const to = change(mapping);
    return to === mapping ? [] : [{ list: 'mappings', id: mapping.id, to }];
  });
}

/** The mapping in a group, or with null in none. */
export function inGroup(mapping: RigMapping, group: string | null): RigMapping {
  const to = { ...mapping };
  delete to.group;
  return group === null ? to : { ...to, group };
}

/** The mapping on another channel; as it is where its message has none. */
export function onChannel(mapping: RigMapping, channel: number): RigMapping {
  return 'channel' in mapping.message ? { ...mapping, message: { ...mapping.message, channel } } : mapping;
}
