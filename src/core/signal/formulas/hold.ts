import type { FormulaKind } from './kind';
import { signalId } from './together';

/** A signal as it was when a gate went on. */
export interface Hold {
  op: 'hold';
  of: string;
  gate: string;
}

export const hold: FormulaKind<Hold> = {
  name: 'Held at a gate',
  fields: { of: signalId, gate: signalId },
  movesByItself: false,
  restsCount: false,
  turn: (_, [turn = 0]) => turn,
  range: ({ of }, rangeOf) => [...rangeOf(of)],
  words: ({ of, gate }, nameOf) => `${nameOf(of)} as it was when ${nameOf(gate)} went on`,
  fresh({ take, gate }) {
    const [of] = take(1) as [string];
    return { op: 'hold', of, gate: gate ?? of };
  },
  value(_, { sources }, state, values) {
    const gate = values[sources[1]!]! > 0;
    // The memory of the gate: what it was when it was looked at last.
    if (gate && !(state.x > 0)) state.y = values[sources[0]!]!;
    state.x = gate ? 1 : 0;
    return state.y;
  },
};
