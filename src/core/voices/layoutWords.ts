import { noteName } from '../midi/describe';
import type { VoiceLayout } from './layout';
import { counted } from '../units/counted';

/** Where voices go, in a few words. */
export function layoutInWords(layout: VoiceLayout): string {
  switch (layout.kind) {
    case 'zone':
      return `MPE ${layout.zone} zone of ${layout.members}`;
    case 'run':
      return layout.first === layout.last ? `channel ${layout.first}, a voice` : `channels ${layout.first} to ${layout.last}, a voice each`;
    case 'osc':
      return `${layout.address}, ${counted(layout.voices, 'voice')}`;
    case 'poly':
      return 'notes';
    case 'mono':
      return 'notes, one at a time';
  }
}

/** As a band has room for it, with its channel. */
export function layoutInShort(layout: VoiceLayout): string {
  if (layout.kind === 'zone') return `MPE ${layout.zone} · ${layout.members}`;
  if (layout.kind === 'run') return `channels ${layout.first} to ${layout.last}`;
  if (layout.kind === 'osc') return layoutInWords(layout);
  return `channel ${layout.channel} · ${layoutInWords(layout)}`;
}

export function keysInWords({ low, high }: { low: number; high: number }): string {
  return `${noteName(low)} to ${noteName(high)}`;
}
