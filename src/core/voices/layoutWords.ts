import { noteName } from '../midi/describe';
import type { VoiceLayout } from './layout';

/** Where voices go, in a few words. */
export function layoutInWords(layout: VoiceLayout): string {
  switch (layout.kind) {
    case 'zone':
      return `MPE ${layout.zone} zone of ${layout.members}`;
    case 'run':
      return layout.first === layout.last ? `channel ${layout.first}, a voice` : `channels ${layout.first} to ${layout.last}, a voice each`;
    case 'poly':
      return 'notes';
    case 'mono':
      return 'notes, one at a time';
  }
}

export function keysInWords({ low, high }: { low: number; high: number }): string {
  return `${noteName(low)} to ${noteName(high)}`;
}
