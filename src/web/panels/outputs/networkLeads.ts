import { unusedPeers, type Leads } from '../../../core/outputs/addOutput';
import type { RigDocument } from '../../../core/rig/document';
import type { NetworkState } from '../../../protocol/live';

/** Where outputs can lead over network MIDI now and none does yet; those who are in no session yet are called from the first. */
export function networkLeads(rig: RigDocument, network: NetworkState | undefined): { name: string; leads: Leads & { kind: 'network' } }[] {
  if (!network?.on) return [];
  const isInOne = (name: string) => network.sessions.some(({ peers }) => peers.some((peer) => peer.name === name));
  return network.sessions.flatMap(({ name: session, peers }, i) => {
    const callable = i === 0 ? network.announced.map(({ name }) => name).filter((name) => !isInOne(name)) : [];
    const everybody = peers.length > 1 ? [undefined] : [];
    return unusedPeers(rig, session, [...peers.map(({ name }) => name), ...callable, ...everybody]).map((peer) => ({
      name: peer ?? `Everybody in ${session}`,
      leads: { kind: 'network' as const, session, ...(peer === undefined ? {} : { peer }) },
    }));
  });
}
