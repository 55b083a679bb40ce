import type { RigVoiceMapping } from '../rig/voices';
import { aloneOn, type VoiceLayout } from './layout';
import type { Pull } from './pull';

/** Settings that are kept: how a voice mapping is played, in the words of the trade. */
export const WAYS_OF_PLAYING = ['free', 'struck in tune', 'held in tune', 'mono for editing'] as const;
export type WayOfPlaying = (typeof WAYS_OF_PLAYING)[number];

/** What a pull begins with: to every semitone, calm enough that vibrato and glides are left alone. */
export const FRESH_PULL: Pull = { scale: { kind: 'mode', root: 0, mode: 'chromatic' }, referenceHz: 440, atStart: 1, held: 0, bandCents: 60, speedMs: 300, atRelease: 0 };

/** A voice mapping played another way; its scale stays, and with it all that the way says nothing of. */
export function played(mapping: RigVoiceMapping, way: WayOfPlaying, usual: VoiceLayout): Pick<RigVoiceMapping, 'pitch' | 'layout'> {
  const { pull: before, ...pitch } = mapping.pitch;
  const pull = { ...FRESH_PULL, ...before };
  const layout = mapping.layout.kind === 'mono' ? usual : mapping.layout;
  switch (way) {
    case 'free':
      return { pitch, layout };
    case 'struck in tune':
      return { pitch: { ...pitch, pull: { ...pull, atStart: 1, held: 0, atRelease: 0 } }, layout };
    case 'held in tune':
      return { pitch: { ...pitch, pull: { ...pull, atStart: 1, held: 1, atRelease: 1 } }, layout };
    case 'mono for editing':
      return { pitch: mapping.pitch, layout: aloneOn(mapping.layout) };
  }
}

/** The way that a voice mapping is played; null where it is none of those that are kept. */
export function wayOf({ pitch: { pull }, layout }: RigVoiceMapping): WayOfPlaying | null {
  if (layout.kind === 'mono') return layout.priority === 'last' && !layout.legato && layout.glideMs === 0 ? 'mono for editing' : null;
  if (!pull || (pull.atStart === 0 && pull.held === 0 && pull.atRelease === 0)) return 'free';
  if (pull.atStart !== 1) return null;
  if (pull.held === 0 && pull.atRelease === 0) return 'struck in tune';
  return pull.held === 1 && pull.atRelease === 1 ? 'held in tune' : null;
}

export function pullInWords(pull: Pull | undefined): string {
  if (!pull || (pull.atStart === 0 && pull.held === 0)) return 'free';
  return pull.held > 0 ? 'held in tune' : 'struck in tune';
}
