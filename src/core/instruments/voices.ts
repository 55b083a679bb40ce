import { BEND_CENTRE } from '../midi/message';
import { noteName } from '../midi/describe';
import type { RigReceiver } from '../rig/document';
import { Zones } from './zone';

/** One address of a receiver that matters to a voice. */
export interface HeardOfVoice {
  kind: 'controlChange' | 'note' | 'pitchBend';
  channel: number;
  number: number;
  value: number;
}

/** A voice that sounds: where it is, bend included, and how far from the nearest note. */
export interface SoundingVoice {
  channel: number;
  note: number;
  /** In semitones with fraction, 60 = middle C. */
  pitch: number;
  nearest: string;
  cents: number;
  strength: number;
}

/** The manager of a zone bends all of its members by two semitones at most (MPE 1.0, appendix A.2). */
export const MANAGER_BEND_SEMITONES = 2;

/** A bend in semitones: the centre is none, both ends the whole range. */
export function bendOf(bend: number, rangeSemitones: number): number {
  return ((bend - BEND_CENTRE) / (bend < BEND_CENTRE ? BEND_CENTRE : BEND_CENTRE - 1)) * rangeSemitones;
}

/** What sounds at a receiver that holds this, by pitch. */
export function voicesOf(heard: Iterable<HeardOfVoice>, { bendRangeSemitones, layout }: Pick<RigReceiver, 'bendRangeSemitones' | 'layout'>): SoundingVoice[] {
  const zones = new Zones(layout);
  const all = [...heard];
  const bends = new Map(all.flatMap(({ kind, channel, value }) => (kind === 'pitchBend' ? [[channel, value] as const] : [])));
  const bendAt = (channel: number | null, range: number) => (channel === null ? 0 : bendOf(bends.get(channel) ?? BEND_CENTRE, range));
  return all
    .flatMap(({ kind, channel, number: note, value }) => {
      if (kind !== 'note' || value === 0) return [];
      const pitch = note + bendAt(channel, bendRangeSemitones) + bendAt(zones.managerOf(channel), MANAGER_BEND_SEMITONES);
      const nearest = Math.min(127, Math.max(0, Math.round(pitch)));
      return [{ channel, note, pitch, nearest: noteName(nearest), cents: Math.round(100 * (pitch - nearest)), strength: value / 127 }];
    })
    .sort((a, b) => a.pitch - b.pitch);
}
