import { inOrder, type Ordered } from '../rig/inOrder';
import type { RigDocument } from '../rig/document';
import { eachLink } from '../rig/links';

/** The members in an order in which each comes after those that it listens to; or a circle, the first id again at its end. */
export function memberOrder({ members }: Pick<RigDocument, 'members'>): Ordered {
  const listens = new Map(members.map((member) => {
    const to: string[] = [];
    eachLink('members', member, (kind, id) => void (kind === 'stream' && to.push(id)));
    return [member.id, to];
  }));
  return inOrder(members.map(({ id }) => id), (id) => listens.get(id) ?? []);
}
