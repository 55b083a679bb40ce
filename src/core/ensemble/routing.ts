import type { RigDocument } from '../rig/document';
import { findSignal, findStream } from '../rig/find';
import { eachLink } from '../rig/links';
import { ledgerOf } from '../ledger/ledger';
import { layoutInShort } from '../voices/layoutWords';
import { memberKind } from './kinds';
import { heardBy } from './order';
import type { RigMember } from './parts';

/** Where a member goes: a voice mapping of its stream. */
export interface Way {
  voiceMapping: string;
  on: boolean;
  outputId: string;
  output: string;
  /** What the output itself lets through: nothing, all, or what its filter leaves. */
  lets: 'all' | 'muted' | 'filtered';
  receiver: string;
  where: string;
  /** Who else is on the same keys or channels, by name. */
  meets: string[];
}

/** A member with all that it hears and all that hears it. */
export interface Route {
  member: RigMember;
  kind: string;
  hears: string[];
  ways: Way[];
  /** Members that listen to it. */
  leads: string[];
}

/** The whole wiring of an ensemble, a row a member. */
export function routingOf(rig: RigDocument): Route[] {
  const clashes = ledgerOf(rig).clashes;
  const named = (id: string) => [...rig.mappings, ...rig.voiceMappings].find((mapping) => mapping.id === id)?.name ?? id;
  return rig.members.map((member): Route => {
    const hears: string[] = [];
    eachLink('members', member, (kind, id) => {
      const name = kind === 'stream' ? findStream(rig, id)?.name : findSignal(rig, id)?.signal.name;
      if (name !== undefined && !hears.includes(name)) hears.push(name);
    });
    const ways = rig.voiceMappings
      .filter(({ stream }) => stream === member.id)
      .map((mapping): Way => {
        const output = rig.outputs.find(({ id }) => id === mapping.output);
        const meets = new Set(clashes.filter(({ claims }) => claims.some((claim) => claim.mapping === mapping.id)).flatMap(({ claims }) => claims.map((claim) => claim.mapping)));
        meets.delete(mapping.id);
        return { voiceMapping: mapping.id, on: mapping.on, outputId: mapping.output, output: output?.name ?? mapping.output, lets: output?.muted ? 'muted' : output && 'filter' in output && output.filter ? 'filtered' : 'all', receiver: rig.receivers.find(({ id }) => id === output?.receiver)?.name ?? '', where: layoutInShort(mapping.layout), meets: [...meets].map(named) };
      });
    const leads = rig.members.filter((other) => heardBy(other).includes(member.id)).map(({ name }) => name);
    return { member, kind: memberKind(member.part).name, hears, ways, leads };
  });
}
