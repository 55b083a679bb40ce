import { layoutChannels, managerOf, voiceChannels, type Layout } from '../receivers/layout';

/** Which sounding voice makes room for a new one where all channels are taken; the lowest one never does with `notLowest`. */
export const STEALS = ['oldest', 'quietest', 'notLowest', 'refuse'] as const;
export type Steal = (typeof STEALS)[number];

export const PRIORITIES = ['last', 'highest', 'lowest'] as const;
export type Priority = (typeof PRIORITIES)[number];

/**
 * Where the voices of a voice mapping go: a channel each of an MPE zone or of a run of channels, or all of them to one channel,
 * several at once or one after another.
 */
export type VoiceLayout =
  | (Layout & { steal: Steal })
  | { kind: 'poly'; channel: number; voices: number; steal: Steal }
  /** Legato: the next note begins before the one before it ends. Glide: from the pitch before, evenly, within the bend range. */
  | { kind: 'mono'; channel: number; priority: Priority; legato: boolean; glideMs: number }
  /** Voices as OSC messages below one address, each with the number of its voice, 1 and on: see `oscVoices`. */
  | { kind: 'osc'; address: string; voices: number; steal: Steal };

/** The most voices that one channel, or one OSC address, sounds at once. */
export const POLY_MOST = 32;

/** By place of a voice, its channel, 1 to 16; of OSC the number of the voice. */
export function placesOf(layout: VoiceLayout): number[] {
  switch (layout.kind) {
    case 'osc':
      return Array.from({ length: layout.voices }, (_, place) => place + 1);
    case 'poly':
      return Array.from({ length: layout.voices }, () => layout.channel);
    case 'mono':
      return [layout.channel];
    default:
      return voiceChannels(layout);
  }
}

/** Every voice has a channel of its own. */
export function isSpread(layout: VoiceLayout): layout is Layout & { steal: Steal } {
  return layout.kind === 'zone' || layout.kind === 'run';
}

/** What its voices leave as. */
export const bodyOf = ({ kind }: VoiceLayout): 'midi' | 'osc' => (kind === 'osc' ? 'osc' : 'midi');

/** The channels that a layout takes; OSC has none. */
export function channelsOf(layout: VoiceLayout): number[] {
  if (layout.kind === 'osc') return [];
  return isSpread(layout) ? layoutChannels(layout) : [layout.channel];
}

/** Where pedals go: to the manager of a zone, to every channel of a run, to the one channel. */
export function pedalChannels(layout: VoiceLayout): number[] {
  if (layout.kind === 'osc') return [];
  if (layout.kind === 'zone') return [managerOf(layout)];
  return layout.kind === 'run' ? voiceChannels(layout) : [layout.channel];
}

/** The layout in which one voice alone is heard, to shape a sound on its first part. */
export function aloneOn(layout: VoiceLayout): VoiceLayout {
  if (layout.kind === 'osc') return { ...layout, voices: 1, steal: 'oldest' };
  return { kind: 'mono', channel: placesOf(layout)[0]!, priority: 'last', legato: false, glideMs: 0 };
}

/** What must be the same for two voice mappings to share their channels. */
export function layoutKey(layout: VoiceLayout): string {
  switch (layout.kind) {
    case 'zone':
      return `zone ${layout.zone} ${layout.members}`;
    case 'run':
      return `run ${layout.first} ${layout.last}`;
    case 'poly':
      return `poly ${layout.channel} ${layout.voices}`;
    case 'mono':
      return `mono ${layout.channel}`;
    case 'osc':
      return `osc ${layout.address} ${layout.voices}`;
  }
}
