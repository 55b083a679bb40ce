import { choice, list } from '../../messages/shapes';
import type { KindOf, Playing } from '../kind';
import { BASS_TONES, BASS_WAYS, type BassPart } from '../parts';
import { OCTAVE } from '../theory/degrees';
import { firstFrom } from '../theory/voicing';
import { listensTo } from './listensTo';
import { everyBeats, gate, key, stepShare, streamId, strike } from './shapes';

type Tone = (typeof BASS_TONES)[number] | 'below';

/**
 * What each way plays step by step. Walk: up the chord and back, with the tone below the root leading to it, as teachers begin
 * walking basses.
 */
const WAYS: Record<Exclude<BassPart['way'], 'pattern'>, readonly Tone[]> = { root: ['root'], fifth: ['root', 'fifth'], octave: ['root', 'octave'], walk: ['root', 'third', 'fifth', 'below'] };
const FIFTH = 7;
const THIRD = 4;

function pitchOf(play: Playing<BassPart, object>, tone: Tone): number | null {
  const { part } = play;
  const harmony = play.harmony(part.listens);
  if (!harmony || tone === 'rest') return null;
  const root = firstFrom(part.low, harmony.root);
  const intervals = harmony.tones.map((pitch) => (((pitch - harmony.root) % OCTAVE) + OCTAVE) % OCTAVE);
  const nearest = (interval: number) => intervals.reduce((best, next) => (Math.abs(next - interval) < Math.abs(best - interval) ? next : best), Infinity);
  switch (tone) {
    case 'root':
      return root;
    case 'third':
      return root + nearest(THIRD);
    case 'fifth':
      return root + nearest(FIFTH);
    case 'octave':
      return root + OCTAVE;
    case 'below':
      return root - 1;
    default:
      return tone satisfies never;
  }
}

export const bass: KindOf<'bass', object> = {
  name: 'Bass',
  about: 'Goes along with a chord: root, fifth, octave, a walk, or steps of one’s own.',
  fields: { listens: streamId, way: choice(...BASS_WAYS), tones: list(choice(...BASS_TONES), 1, 64), low: key, everyBeats, length: stepShare, strike, while: gate },
  fresh: (rig) => ({ kind: 'bass', listens: listensTo(rig, 'chord'), way: 'fifth', tones: ['root', 'rest', 'fifth', 'rest'], low: 36, everyBeats: 1, length: 0.8, strike: 0.8 }),
  words: ({ listens, way }, nameOf) => `${way === 'pattern' ? 'steps of its own' : way} under ${nameOf(listens)}`,
  remember: () => ({}),
  steps: {
    withTransport: true,
    everyBeats: ({ part }) => part.everyBeats,
    goesOn: (play) => play.part.while === undefined || play.isOn(play.part.while),
    play(play, step) {
      const { part } = play;
      const tones: readonly Tone[] = part.way === 'pattern' ? part.tones : WAYS[part.way];
      const pitch = pitchOf(play, tones[step % tones.length]!);
      if (pitch !== null) play.sound(pitch, part.strike, { beats: part.length * part.everyBeats });
    },
  },
};
