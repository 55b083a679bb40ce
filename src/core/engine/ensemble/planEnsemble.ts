import { memberKind } from '../../ensemble/kinds';
import type { MemberKind } from '../../ensemble/kind';
import { memberOrder } from '../../ensemble/order';
import type { MemberPart, RigMember } from '../../ensemble/parts';
import type { RigDocument } from '../../rig/document';
import { eachLink } from '../../rig/links';

export interface PlannedMember {
  rig: RigMember;
  kind: MemberKind<MemberPart>;
  /** The stream that it makes, and those that it listens to. */
  stream: number;
  listens: readonly number[];
  signals: readonly { id: string; index: number }[];
}

export interface EnsemblePlan {
  /** Each after those that it listens to. */
  members: PlannedMember[];
  /** By stream: the members that listen to it. */
  listeners: number[][];
  /** By signal: the members that follow it. */
  followers: number[][];
  isFollowed: Uint8Array;
}

export function planEnsemble(rig: RigDocument, streamIndex: ReadonlyMap<string, number>, signalIndex: ReadonlyMap<string, number>): EnsemblePlan {
  const ordered = memberOrder(rig);
  if (!ordered.ok) throw new Error(`Members of the ensemble listen to each other in a circle: ${ordered.circle.join(', ')}.`);
  const members = ordered.order.map((id): PlannedMember => {
    const member = rig.members.find((candidate) => candidate.id === id)!;
    const listens = new Set<number>();
    const signals = new Map<string, number>();
    eachLink('members', member, (kind, of) => {
      if (kind === 'stream') listens.add(streamIndex.get(of)!);
      else if (kind === 'signal') signals.set(of, signalIndex.get(of)!);
    });
    return { rig: member, kind: memberKind(member.part), stream: streamIndex.get(id)!, listens: [...listens], signals: [...signals].map(([signal, index]) => ({ id: signal, index })) };
  });
  const listeners = Array.from({ length: streamIndex.size }, (_, s) => members.flatMap((member, i) => (member.listens.includes(s) ? [i] : [])));
  const followers = Array.from({ length: signalIndex.size }, (_, s) => members.flatMap((member, i) => (member.signals.some(({ index }) => index === s) ? [i] : [])));
  return { members, listeners, followers, isFollowed: Uint8Array.from(followers, (all) => Number(all.length > 0)) };
}
