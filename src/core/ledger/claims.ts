import { addressKey, channelOf, kindOf } from '../messages';
import type { Held } from '../messages/kind';
import type { Merge, RigDocument, RigMapping } from '../rig/document';

/** A mapping's hold on one address: an output, a channel, a kind and a number. */
export interface Claim extends Held {
  mapping: string;
  output: string;
  channel: number;
  /** What tells addresses apart; two claims with one key meet. */
  key: string;
  merge: Merge | null;
}

/** Everything the mappings of a rig lay hold on. 14-bit controllers take two numbers, a chord all its notes. */
export function claimsOf({ mappings }: RigDocument): Claim[] {
  return mappings.flatMap((mapping) => claimsOfMapping(mapping));
}

/** What one mapping lays hold on. */
export function claimsOfMapping({ id, output, message, merge }: RigMapping): Claim[] {
  return kindOf(message).holds(message).map(({ kind, number, channel = channelOf(message) }) => {
    const key = kind === 'other' ? addressKey(output, message) : kind === 'zone' ? `${output} ${channel} zone` : `${output} ${channel} ${kind} ${number ?? ''}`;
    return { mapping: id, output, channel, kind, number, key, merge: merge ?? null };
  });
}
