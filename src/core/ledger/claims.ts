import { addressKey, channelOf, kindOf } from '../messages';
import type { Held } from '../messages/kind';
import type { Merge, RigDocument, RigMapping } from '../rig/document';
import type { RigVoiceMapping } from '../rig/voices';
import { channelsOf, isSpread, layoutKey } from '../voices/layout';

/** A mapping's hold on one address: an output, a channel, a kind and a number. */
export interface Claim extends Held {
  mapping: string;
  output: string;
  channel: number;
  /** Who is on it: a mapping; of voice mappings that share their channels, all of them together. */
  owner: string;
  /** What tells addresses apart; two claims with one key meet. */
  key: string;
  merge: Merge | null;
}

/** Everything the mappings and voice mappings of a rig lay hold on. 14-bit controllers take two numbers, a chord all its notes. */
export function claimsOf({ mappings, voiceMappings }: RigDocument): Claim[] {
  return [...mappings.flatMap((mapping) => claimsOfMapping(mapping)), ...voiceMappings.flatMap((mapping) => claimsOfVoices(mapping))];
}

/** What one mapping lays hold on. */
export function claimsOfMapping({ id, output, message, merge }: RigMapping): Claim[] {
  return kindOf(message).holds(message).map(({ kind, number, channel = channelOf(message) }) => {
    const key = kind === 'other' ? addressKey(output, message) : kind === 'zone' ? `${output} ${channel} zone` : `${output} ${channel} ${kind} ${number ?? ''}`;
    return { mapping: id, owner: id, output, channel, kind, number, key, merge: merge ?? null };
  });
}

const KEYS = 128;
/** A fine half is so much above its coarse one. */
const FINE = 32;

/**
 * What a voice mapping lays hold on: all of the channels of a zone or run; of one channel its keys, its bend, and the messages of
 * its axes.
 */
export function claimsOfVoices({ id, output, layout, keys = { low: 0, high: KEYS - 1 }, pitch, pressure, slide }: RigVoiceMapping): Claim[] {
  const owner = `${output} ${layoutKey(layout)}`;
  const claim = (channel: number, kind: Claim['kind'], number: number | null): Claim => ({ mapping: id, owner, output, channel, kind, number, key: kind === 'zone' ? `${output} ${channel} zone` : `${output} ${channel} ${kind} ${number ?? ''}`, merge: null });
  if (layout.kind === 'osc') return [{ mapping: id, owner, output, channel: 0, kind: 'other', number: null, key: `${output} osc voices ${layout.address}`, merge: null }];
  const channels = channelsOf(layout);
  if (isSpread(layout)) return channels.map((channel) => claim(channel, 'zone', null));
  const [channel] = channels as [number];
  const struck = Array.from({ length: KEYS }, (_, key) => key).filter((key) => key - pitch.transpose >= keys.low - 0.5 && key - pitch.transpose <= keys.high + 0.5);
  const ofAxes = [pressure, slide].flatMap((axis): Claim[] => {
    switch (axis?.message.kind) {
      case undefined:
        return [];
      case 'channelPressure':
        return [claim(channel, 'pressure', null)];
      case 'polyPressure':
        return struck.map((key) => claim(channel, 'polyPressure', key));
      case 'controlChange':
        return [claim(channel, 'controller', axis.message.controller)];
      // Of the keys, which it has already; and OSC, which no channel has.
      case 'keyController':
      case 'osc':
        return [];
      case 'controlChange14':
        return [claim(channel, 'controller', axis.message.controller), claim(channel, 'controller', axis.message.controller + FINE)];
    }
  });
  return [...struck.map((key) => claim(channel, 'note', key)), ...(pitch.bends ? [claim(channel, 'bend', null)] : []), ...ofAxes];
}
