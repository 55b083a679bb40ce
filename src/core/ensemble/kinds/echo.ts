import { number, whole } from '../../messages/shapes';
import type { KindOf } from '../kind';
import { listensTo } from './listensTo';
import { everyBeats, streamId } from './shapes';

export const ECHOES_MOST = 16;
/** Softer than this nobody hears. */
const INAUDIBLE = 1 / 127;

interface Memory {
  /** By voice that is held: the echoes of it that come. */
  comes: Record<number, number[]>;
  drawn: number;
}

const keyOf = (voice: number, time: number) => voice * (ECHOES_MOST + 1) + time;

export const echo: KindOf<'echo', Memory> = {
  name: 'Echo',
  about: 'Notes come again, fewer and softer.',
  fields: { listens: streamId, times: whole(1, ECHOES_MOST), everyBeats, softer: number(0, 1), fewer: number(0, 1), transpose: whole(-48, 48) },
  fresh: (rig) => ({ kind: 'echo', listens: listensTo(rig, 'arpeggio'), times: 3, everyBeats: 0.75, softer: 0.6, fewer: 1, transpose: 0 }),
  words: ({ listens, times }, nameOf) => `${nameOf(listens)} ${times} times again`,
  remember: () => ({ comes: {}, drawn: 0 }),
  hear(play, _, { voice, pitch, strike }, on) {
    const { part, memory } = play;
    if (!on) {
      // As long as the voice itself was, each in its turn.
      for (const time of memory.comes[voice] ?? []) play.later(time * part.everyBeats, NaN, -1, 'held', keyOf(voice, time));
      delete memory.comes[voice];
      return;
    }
    const comes: number[] = [];
    for (let time = 1; time <= part.times; time++) {
      const hard = strike * part.softer ** time;
      if (hard < INAUDIBLE) break;
      if (play.chance(memory.drawn++) >= part.fewer ** time) continue;
      comes.push(time);
      play.later(time * part.everyBeats, pitch + time * part.transpose, hard, 'held', keyOf(voice, time));
    }
    memory.comes[voice] = comes;
  },
};
