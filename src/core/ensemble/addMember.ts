import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';
import { streamIds } from '../rig/find';
import { freeId, freeName } from '../rig/naming';
import { firstTaking } from '../rig/outputs';
import { freshVoiceMapping } from '../voices/freshVoiceMapping';
import { MEMBERS } from './kinds';
import type { MemberPart, PartKind, RigMember } from './parts';

/** What most members begin as; an arpeggio or a stream that began at once would be off the beat. */
const PLAIN = { on: true, level: 1, octave: 0, swing: 0.5, feelMs: 0 } as const;
const USUALLY_BEGINS: Partial<Record<PartKind, RigMember['begins']>> = { arpeggio: 'beat', stream: 'beat', pattern: 'bar', bass: 'beat' };

/** A new member, with a voice mapping to an output: its own channel there. Without an output it is heard by other members alone. */
export function addMember(rig: RigDocument, wanted: string, part: MemberPart, output = firstTaking(rig, 'midi')?.id): { changes: Change[]; id: string } {
  const name = freeName(wanted, rig.members.map((member) => member.name));
  const id = freeId(wanted, streamIds(rig));
  const member: RigMember = { id, name, ...PLAIN, begins: USUALLY_BEGINS[part.kind] ?? 'now', part };
  const changes: Change[] = [{ list: 'members', id, to: member }];
  if (output !== undefined) {
    // A pattern of drums belongs where drums are heard.
    const drums = part.kind === 'pattern' && part.listens === undefined;
    const { change } = freshVoiceMapping(rig, { id, name, drums }, output, false);
    changes.push({ ...change, to: { ...change.to, group: 'Ensemble' } } as Change);
  }
  return { changes, id };
}

/** A new member of a kind, as it begins. */
export function freshMemberOf(rig: RigDocument, kind: PartKind): { changes: Change[]; id: string } {
  return addMember(rig, MEMBERS[kind].name, MEMBERS[kind].fresh(rig));
}
