import type { RigDocument, RigMapping } from '../rig/document';
import type { RigVoiceMapping } from '../rig/voices';
import type { Change } from '../rig/edit';
import { findEither, isVoices, type EitherMapping } from './either';

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
 * it is there already. Voice mappings stand behind the mappings of a group, so that between the two kinds only the group changes.
 */
export function moveMapping(rig: RigDocument, id: string, onto: string): Change[] {
  const moved = findEither(rig, id);
  const target = findEither(rig, onto);
  if (!moved || !target || id === onto) return [];
  const to = inGroup(moved, target.group ?? null);
  if (isVoices(moved) !== isVoices(target)) return moved.group === target.group ? [] : [changeOf(to)];
  const list: readonly EitherMapping[] = isVoices(target) ? rig.voiceMappings : rig.mappings;
  return [{ ...changeOf(to), at: list.indexOf(target) }];
}

/** Whether a mapping that is moved onto another lands behind it, in the list of both; else before it. */
export function landsBehind(rig: RigDocument, id: string, onto: string): boolean {
  const list: readonly EitherMapping[] = rig.mappings.some((mapping) => mapping.id === onto) ? rig.mappings : rig.voiceMappings;
  const at = (wanted: string) => list.findIndex((mapping) => mapping.id === wanted);
  return at(id) >= 0 && at(id) < at(onto);
}

/** One change for each of many mappings. */
export function changeMappings(rig: RigDocument, ids: ReadonlySet<string>, change: (mapping: EitherMapping) => EitherMapping): Change[] {
  return [...rig.mappings, ...rig.voiceMappings].flatMap((mapping): Change[] => {
    if (!ids.has(mapping.id)) return [];
    const to = change(mapping);
    return to === mapping ? [] : [changeOf(to)];
  });
}

const changeOf = (to: EitherMapping): Change => (isVoices(to) ? { list: 'voiceMappings', id: to.id, to } : { list: 'mappings', id: to.id, to });

/** The mapping in a group, or with null in none. */
export function inGroup<M extends EitherMapping>(mapping: M, group: string | null): M {
  const to = { ...mapping };
  delete to.group;
  return group === null ? to : { ...to, group };
}

/** The mapping on another channel; as it is where its message or layout has not just one. */
export function onChannel(mapping: EitherMapping, channel: number): EitherMapping {
  if (isVoices(mapping)) return 'channel' in mapping.layout ? { ...mapping, layout: { ...mapping.layout, channel } } : mapping;
  return 'channel' in mapping.message ? { ...mapping, message: { ...mapping.message, channel } } : mapping;
}
