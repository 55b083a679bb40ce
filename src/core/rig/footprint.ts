import type { RigEdit } from './edit';

/** What an edit touches: `list id field`, or `list id *` where a whole thing is put in its place or taken away. */
export function footprint(edit: RigEdit): string[] {
  const fields = (thing: string, set: object) => Object.keys(set).map((field) => `${thing} ${field}`);
  switch (edit.kind) {
    case 'setMapping':
      return fields(`mappings ${edit.mapping}`, edit.set);
    case 'setVoiceMapping':
      return fields(`voiceMappings ${edit.voiceMapping}`, edit.set);
    case 'setMember':
      return fields(`members ${edit.member}`, edit.set);
    case 'setInput':
      return fields(`inputs ${edit.input}`, edit.set);
    case 'setSignal':
      return fields(`signals ${edit.signal}`, edit.set);
    case 'setRig':
      return fields('rig .', edit.set);
    case 'change':
      return [...edit.changes.map(({ list, id }) => `${list} ${id} *`), ...fields('rig .', edit.set ?? {})];
    default:
      return edit satisfies never;
  }
}

/** Whether two edits touch the same: made side by side, the later would silently undo the earlier. */
export function collide(one: RigEdit, other: RigEdit): boolean {
  const others = footprint(other).map((touched) => touched.split(' '));
  return footprint(one).some((touched) => {
    const [list, id, field] = touched.split(' ');
    return others.some(([otherList, otherId, otherField]) => list === otherList && id === otherId && (field === otherField || field === '*' || otherField === '*'));
  });
}
