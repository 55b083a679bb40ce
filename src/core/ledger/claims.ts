import { addressKey, channelOf } from '../mapping/address';
import type { Merge, MessageSpec, RigDocument, RigMapping } from '../rig/document';

/** A mapping's hold on one address: an output, a channel, a kind and a number. */
export interface Claim {
  mapping: string;
  output: string;
  channel: number;
  kind: 'zone' | 'controller' | 'parameter' | 'note' | 'bend' | 'pressure' | 'polyPressure' | 'program' | 'other';
  number: number | null;
  /** What tells addresses apart; two claims with one key meet. */
  key: string;
  merge: Merge | null;
}

/** Everything the mappings of a rig lay hold on. 14-bit controllers take two numbers, a chord all its notes. */
export function claimsOf({ mappings }: RigDocument): Claim[] {
  return mappings.flatMap((mapping) => claimsOfMapping(mapping));
}

/** What one mapping lays hold on. */
export function claimsOfMapping(mapping: RigMapping): Claim[] {
  const { message } = mapping;
  const claim = (kind: Claim['kind'], number: number | null): Claim => ({
    mapping: mapping.id,
    output: mapping.output,
    channel: channelOf(message),
    kind,
    number,
    key: kind === 'other' ? addressKey(mapping.output, message) : `${mapping.output} ${channelOf(message)} ${kind} ${number ?? ''}`,
    merge: mapping.merge ?? null,
  });
  switch (message.kind) {
    case 'controlChange':
    case 'relative':
      return [claim('controller', message.controller)];
    case 'controlChange14':
      return [claim('controller', message.controller), claim('controller', message.controller + 32)];
    case 'parameter': {
      const parameter = claim('parameter', message.parameter + (message.registered ? 16384 : 0));
      return [parameter, ...zoneChannels(message).map((channel): Claim => ({ ...claim('zone', null), channel, key: `${mapping.output} ${channel} zone` }))];
    }
    case 'note':
      return notesOf(message).map((note) => claim('note', note));
    case 'pitchBend':
      return [claim('bend', null)];
    case 'channelPressure':
      return [claim('pressure', null)];
    case 'polyPressure':
      return typeof message.note === 'number' ? [claim('polyPressure', message.note)] : [];
    case 'programChange':
      return [claim('program', null)];
    case 'transport':
    case 'machine':
    case 'sysEx':
    case 'osc':
      return [claim('other', null)];
    default:
      return message satisfies never;
  }
}

/**
 * The channels that an MPE configuration message takes for its members: RPN 6 on channel 1 counts upwards, on channel 16
 * downwards (MPE specification 1.0, RP-053). The largest number that the mapping can send counts.
 */
function zoneChannels({ registered, parameter, channel, range }: Extract<MessageSpec, { kind: 'parameter' }>): number[] {
  if (!registered || parameter !== 6 || (channel !== 1 && channel !== 16)) return [];
  const members = Math.min(15, Math.max(...range));
  return Array.from({ length: members }, (_, i) => (channel === 1 ? 2 + i : 15 - i));
}

function notesOf({ note, chord = [0], transpose = 0 }: Extract<MessageSpec, { kind: 'note' }>): number[] {
  return chord.map((offset) => note + transpose + offset).filter((sounding) => sounding >= 0 && sounding <= 127);
}
