import type { MessageSpec, RigDocument, RigMapping } from '../rig/document';
import { claimsOf, claimsOfMapping } from './claims';
import { freeControllers } from './ledger';

/**
 * The message of a mapping with its number counted on to the next that nothing uses, on its own channel if there is one,
 * else on the channels after it. Messages without an address of their own (start, machine control) stay as they are. Null
 * where every number is in use.
 */
export function countOn(rig: RigDocument, mapping: RigMapping): MessageSpec | null {
  const used = new Set(claimsOf(rig).map(({ key }) => key));
  for (const message of candidates(rig, mapping)) {
    if (claimsOfMapping({ ...mapping, message }).every(({ key }) => !used.has(key))) return message;
  }
  return null;
}

/** As `countOn`, but a message that nothing uses is kept. */
export function keepOrCountOn(rig: RigDocument, mapping: RigMapping): MessageSpec | null {
  const used = new Set(claimsOf(rig).map(({ key }) => key));
  return claimsOfMapping(mapping).some(({ key }) => used.has(key)) ? countOn(rig, mapping) : mapping.message;
}

function* candidates(rig: RigDocument, { message, output }: RigMapping): Generator<MessageSpec> {
  switch (message.kind) {
    case 'controlChange':
    case 'relative':
      for (const channel of channelsFrom(message.channel)) {
        const free = freeControllers(rig, output, channel);
        const above = channel === message.channel ? free.filter((number) => number > message.controller) : [];
        for (const controller of [...above, ...free]) yield { ...message, channel, controller };
      }
      return;
    case 'controlChange14':
      for (const channel of channelsFrom(message.channel)) {
        for (const controller of freeControllers(rig, output, channel)) if (controller < 32) yield { ...message, channel, controller };
      }
      return;
    case 'note':
      for (const channel of channelsFrom(message.channel)) {
        for (let note = channel === message.channel ? message.note + 1 : message.note; note < 128; note++) yield { ...message, channel, note };
      }
      return;
    case 'parameter':
      for (let parameter = message.parameter + 1; parameter < 16384; parameter++) yield { ...message, parameter };
      return;
    case 'polyPressure':
      if (typeof message.note !== 'number') return yield message;
      for (let note = message.note + 1; note < 128; note++) yield { ...message, note };
      return;
    case 'pitchBend':
    case 'channelPressure':
    case 'programChange':
      for (const channel of channelsFrom(message.channel)) yield { ...message, channel };
      return;
    case 'osc':
      for (let n = 2; n < 1000; n++) yield { ...message, address: `${message.address.replace(/\d+$/, '')}${n}` };
      return;
    case 'transport':
    case 'machine':
    case 'sysEx':
      return;
    default:
      return message satisfies never;
  }
}

/** All sixteen, from one on and round. */
function channelsFrom(first: number): number[] {
  return Array.from({ length: 16 }, (_, i) => ((first - 1 + i) % 16) + 1);
}
