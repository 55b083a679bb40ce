import { milliseconds } from '../../messages/shapes';
import { attackRelease } from '../../shaping/attackRelease';
import { turnNearest } from '../period';
import { AT_ONCE_MS, isSame, REST_MS } from './atRest';
import type { DerivedState, FormulaKind, Sources } from './kind';
import { signalId } from './together';

/** A signal followed, with a time up and another down. */
export interface Envelope {
  op: 'envelope';
  of: string;
  attackMs: number;
  releaseMs: number;
}

const rests = ({ attackMs, releaseMs }: Envelope, _: Sources, { x, y }: DerivedState) => isSame(attackRelease(y, x, x, REST_MS, attackMs, releaseMs), y);

export const envelope: FormulaKind<Envelope> = {
  name: 'Follower',
  fields: { of: signalId, attackMs: milliseconds, releaseMs: milliseconds },
  movesByItself: true,
  restsCount: false,
  turn: (_, [turn = 0]) => turn,
  range: ({ of }, rangeOf) => [...rangeOf(of)],
  words: ({ of, attackMs, releaseMs }, nameOf) => `${nameOf(of)} followed, ${attackMs} ms up and ${releaseMs} ms down`,
  fresh: ({ take }) => ({ op: 'envelope', of: take(1)[0]!, attackMs: 20, releaseMs: 300 }),
  rests,
  value(formula, of, state, values, timeMs) {
    const heard = values[of.sources[0]!]!;
    // An angle goes on from where it was, over the end of its circle as well.
    const x = Number.isNaN(state.x) ? heard : turnNearest(heard, state.x, of.turn);
    if (Number.isNaN(state.timeMs)) state.y = x;
    else {
      const sinceMs = rests(formula, of, state) ? AT_ONCE_MS : timeMs - state.timeMs;
      state.y = attackRelease(state.y, state.x, x, sinceMs, formula.attackMs, formula.releaseMs);
    }
    state.x = x;
    state.timeMs = timeMs;
    return state.y;
  },
};
