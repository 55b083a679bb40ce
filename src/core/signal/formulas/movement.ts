import { LONGEST_MS, MOST_EXAMPLES, MOST_SIGNALS, Movement as TaughtMovement, MovementFinder, PATH_POINTS, SHORTEST_MS, type MovementExample } from '../../gesture/movement';
import { finite, list, number, object, pair } from '../../messages/shapes';
import { listed, type DerivedState, type FormulaKind } from './kind';
import { signalId } from './together';
import { counted } from '../../units/counted';

/** A movement that was taught: on for a moment, with a strength, when it comes again. */
export interface Movement {
  op: 'movement';
  of: string[];
  /** By signal: what counts as 0 and as 1 in the paths of the examples. */
  spans: [lo: number, hi: number][];
  examples: MovementExample[];
}

/** It is on for so long. */
const ON_MS = 120;

/** What one derived signal remembers of it. */
interface Memory {
  of: Movement;
  finder: MovementFinder;
  at: Float64Array;
}

function memoryOf(formula: Movement, state: DerivedState): Memory {
  const known = state.memory as Memory | undefined;
  if (known?.of === formula) return known;
  const made = { of: formula, finder: new MovementFinder(new TaughtMovement(formula.examples, formula.of.length)), at: new Float64Array(formula.of.length) };
  state.memory = made;
  return made;
}

export const movement: FormulaKind<Movement> = {
  name: 'Movement',
  fields: {
    of: list(signalId, 1, MOST_SIGNALS),
    spans: { ...list(pair(finite), 1, MOST_SIGNALS), asLongAs: 'of' } as ReturnType<typeof list>,
    examples: list(object({ durationMs: number(SHORTEST_MS, LONGEST_MS), path: list(number(-1e6, 1e6), PATH_POINTS, PATH_POINTS * MOST_SIGNALS) }), 0, MOST_EXAMPLES),
  },
  gate: true,
  // Where a movement ends nothing comes any more.
  movesByItself: true,
  restsCount: false,
  unit: () => 'unit',
  range: () => [0, 1],
  words: ({ of, examples }, nameOf) => `a movement of ${listed(of.map(nameOf))}, taught by ${counted(examples.length, 'example')}`,
  fresh: ({ take }) => ({ op: 'movement', of: take(2), spans: [[0, 1], [0, 1]], examples: [] }),
  value(formula, { sources }, state, values, timeMs) {
    const { finder, at } = memoryOf(formula, state);
    for (let i = 0; i < sources.length; i++) {
      const [lo, hi] = formula.spans[i] ?? [0, 1];
      at[i] = (values[sources[i]!]! - lo) / (hi - lo || 1);
    }
    const strength = finder.push(at, timeMs);
    if (strength > 0) {
      state.y = strength;
      state.timeMs = timeMs;
    }
    return timeMs - state.timeMs < ON_MS ? state.y : 0;
  },
};
