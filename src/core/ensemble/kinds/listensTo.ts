import type { RigDocument } from '../../rig/document';
import type { PartKind } from '../parts';

/** The stream that a new member listens to: that of a member of the kind that it goes with, else any. */
export function listensTo({ members, streams }: RigDocument, kind: PartKind): string {
  return (members.find(({ part }) => part.kind === kind) ?? members[0] ?? streams[0])?.id ?? '';
}
