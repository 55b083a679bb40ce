import { milliseconds } from '../../messages/shapes';
import { attackRelease } from '../../shaping/attackRelease';
import type { FormulaKind } from './kind';
import { signalId } from './together';

/** A signal followed, with a time up and another down. */
export interface Envelope {
  op: 'envelope';
  of: string;
  attackMs: number;
  releaseMs: number;
}

export const envelope: FormulaKind<Envelope> = {
  name: 'Follower',
  fields: { of: signalId, attackMs: milliseconds, releaseMs: milliseconds },
  movesByItself: true,
  restsCount: false,
  range: ({ of }, rangeOf) => [...rangeOf(of)],
  words: ({ of, attackMs, releaseMs }, nameOf) => `${nameOf(of)} followed, ${attackMs} ms up and ${releaseMs} ms down`,
  fresh: ({ take }) => ({ op: 'envelope', of: take(1)[0]!, attackMs: 20, releaseMs: 300 }),
  value({ attackMs, releaseMs }, { sources }, state, values, timeMs) {
    const x = values[sources[0]!]!;
    if (Number.isNaN(state.timeMs)) state.y = x;
    else state.y = attackRelease(state.y, state.x, x, timeMs - state.timeMs, attackMs, releaseMs);
    state.x = x;
    state.timeMs = timeMs;
    return state.y;
  },
};
