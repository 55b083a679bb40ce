import { milliseconds } from '../../messages/shapes';
import { attackRelease } from '../../shaping/attackRelease';
import { turnNearest } from '../period';
import { afterSource, rests, type Along } from './betweenSamples';
import type { FormulaKind } from './kind';
import { signalId } from './together';

/** A signal followed, with a time up and another down. */
export interface Envelope {
  op: 'envelope';
  of: string;
  attackMs: number;
  releaseMs: number;
}

const along: Along<Envelope> = ({ attackMs, releaseMs }, y, from, to, dtMs) => attackRelease(y, from, to, dtMs, attackMs, releaseMs);

export const envelope: FormulaKind<Envelope> = {
  name: 'Follower',
  fields: { of: signalId, attackMs: milliseconds, releaseMs: milliseconds },
  movesByItself: true,
  restsCount: false,
  turn: (_, [turn = 0]) => turn,
  range: ({ of }, rangeOf) => [...rangeOf(of)],
  words: ({ of, attackMs, releaseMs }, nameOf) => `${nameOf(of)} followed, ${attackMs} ms up and ${releaseMs} ms down`,
  fresh: ({ take }) => ({ op: 'envelope', of: take(1)[0]!, attackMs: 20, releaseMs: 300 }),
  rests: (formula, _, { x, y }) => rests(along, formula, y, x),
  value(formula, of, state, values, timeMs, _, times) {
    const heard = values[of.sources[0]!]!;
    if (Number.isNaN(state.timeMs)) {
      state.timeMs = timeMs;
      return (state.y = state.x = heard);
    }
    // An angle goes on from where it was, over the end of its circle as well.
    return afterSource(along, formula, of, state, turnNearest(heard, state.x, of.turn), timeMs, times);
  },
};
