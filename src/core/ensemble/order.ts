import { inOrder, type Ordered } from '../rig/inOrder';
import type { RigDocument } from '../rig/document';
import { eachLink } from '../rig/links';
import type { RigMember } from './parts';

/** The members in an order in which each comes after those that it listens to; or a circle, the first id again at its end. */
export function memberOrder({ members }: Pick<RigDocument, 'members'>): Ordered {
  const heard = new Map(members.map((member) => [member.id, heardBy(member)]));
  return inOrder(members.map(({ id }) => id), (id) => heard.get(id) ?? []);
}

/** The streams and members that a member listens to. */
export function heardBy(member: RigMember): string[] {
  const to: string[] = [];
  eachLink('members', member, (kind, id) => void (kind === 'stream' && to.push(id)));
  return to;
}

/** The members that listen to a stream, and those that listen to them. */
export function listenersOf({ members }: Pick<RigDocument, 'members'>, stream: string): string[] {
  const found = new Set<string>([stream]);
  for (let before = -1; before !== found.size; ) {
    before = found.size;
    for (const member of members) if (heardBy(member).some((id) => found.has(id))) found.add(member.id);
  }
  found.delete(stream);
  return [...found];
}
