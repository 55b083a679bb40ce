import type { RigDocument, RigMapping } from '../rig/document';
import { kindOf, type MessageSpec } from '../messages';
import { claimsOf, claimsOfMapping } from './claims';
import { freeControllers } from './ledger';

/**
 * The message of a mapping with its number counted on to the next that nothing uses, on its own channel if there is one,
 * else on the channels after it. Messages without an address of their own (start, machine control) stay as they are. Null
 * where every number is in use.
 */
export function countOn(rig: RigDocument, mapping: RigMapping): MessageSpec | null {
  const used = new Set(claimsOf(rig).map(({ key }) => key));
  const { message: before, output } = mapping;
  for (const message of kindOf(before).others(before, (channel) => freeControllers(rig, output, channel))) {
    if (claimsOfMapping({ ...mapping, message }).every(({ key }) => !used.has(key))) return message;
  }
  return null;
}

/** As `countOn`, but a message that nothing uses is kept. */
export function keepOrCountOn(rig: RigDocument, mapping: RigMapping): MessageSpec | null {
  const used = new Set(claimsOf(rig).map(({ key }) => key));
  return claimsOfMapping(mapping).some(({ key }) => used.has(key)) ? countOn(rig, mapping) : mapping.message;
}
