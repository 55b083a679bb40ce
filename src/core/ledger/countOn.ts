import type { RigDocument, RigMapping } from '../rig/document';
import { channelOf, kindOf, type MessageSpec } from '../messages';
import { claimsOf, claimsOfMapping } from './claims';
import { freeControllers, openChannels } from './ledger';

/**
 * The message of a mapping with its number counted on to the next that nothing uses, on its own channel if there is one,
 * else on the channels after it that the receiver listens to. Messages without an address of their own (start, machine control)
 * stay as they are. Null where every number is in use.
 */
export function countOn(rig: RigDocument, mapping: RigMapping): MessageSpec | null {
  const isFree = freeOn(rig, mapping.output);
  const { message: before, output } = mapping;
  for (const message of kindOf(before).others(before, (channel) => freeControllers(rig, output, channel))) if (isFree({ ...mapping, message })) return message;
  return null;
}

/** As `countOn`, but a message that nothing uses is kept. */
export function keepOrCountOn(rig: RigDocument, mapping: RigMapping): MessageSpec | null {
  return freeOn(rig, mapping.output)(mapping) ? mapping.message : countOn(rig, mapping);
}

/** Tells whether nothing of an output uses what a mapping would. */
function freeOn(rig: RigDocument, output: string): (mapping: RigMapping) => boolean {
  const claims = claimsOf(rig);
  const used = new Set(claims.map(({ key }) => key));
  const open = openChannels(rig, output, claims);
  return (mapping) => {
    const channel = channelOf(mapping.message);
    return (channel === 0 || open.includes(channel)) && claimsOfMapping(mapping).every(({ key }) => !used.has(key));
  };
}
