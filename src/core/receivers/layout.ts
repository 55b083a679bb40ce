import type { RigReceiver } from '../rig/document';
import { counted } from '../units/counted';

/**
 * Where a receiver has its voices: an MPE zone with so many member channels (MPE 1.0, section 2.1.1: the lower zone has its manager
 * on channel 1 and members from 2 up, the upper zone on 16 and from 15 down), or a run of channels with a voice each.
 */
export type Layout = { kind: 'zone'; zone: 'lower' | 'upper'; members: number } | { kind: 'run'; first: number; last: number };

export const MEMBERS_MOST = 15;

/** The manager channel of a zone. */
export const managerOf = ({ zone }: Extract<Layout, { kind: 'zone' }>): number => (zone === 'lower' ? 1 : 16);

/** The channels that voices of a receiver may have, 1 to 16, in the order in which they are given away. */
export function voiceChannels(layout: Layout): number[] {
  if (layout.kind === 'run') return range(layout.first, layout.last);
  return layout.zone === 'lower' ? range(2, 1 + layout.members) : range(16 - layout.members, 15).reverse();
}

/** All channels of a layout. */
export function layoutChannels(layout: Layout): number[] {
  const voices = voiceChannels(layout);
  return layout.kind === 'zone' ? [managerOf(layout), ...voices] : voices;
}

/** A layout as its receiver's manual might say it. */
export function layoutInWords({ layout }: Pick<RigReceiver, 'layout'>): string {
  if (!layout) return 'one channel';
  if (layout.kind === 'run') return `channels ${layout.first} to ${layout.last}, a voice each`;
  return `MPE, ${layout.zone} zone with ${counted(layout.members, 'channel')}`;
}

function range(first: number, last: number): number[] {
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i);
}
