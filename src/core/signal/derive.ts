import type { Formula, RigDerived } from '../rig/document';
import { attackRelease } from '../shaping/attackRelease';
import { accumulate } from './integrate';
import { nextPhase, wave } from './oscillator';
import { periodicDifference } from './period';
import { pitchDeg, rollDeg } from './tilt';

/** A source that was silent for this long stands still, as far as its speed is concerned. */
const STILL_MS = 100;
/** Two samples nearer than this in time say nothing about speed. */
const NEAREST_MS = 0.5;

/** A derived signal ready to run: its sources by index. */
export interface PlannedDerived {
  index: number;
  rig: RigDerived;
  sources: number[];
  /** Where each source lies before it was ever heard. */
  rests: number[];
  /** Indices of an oscillator's rate and depth where they are signals, else -1. */
  rate: number;
  depth: number;
  period: number;
  seed: number;
}

/** The memory of one derived signal; which of it is used depends on the formula. */
export interface DerivedState {
  y: number;
  x: number;
  timeMs: number;
}

export const freshDerived = (): DerivedState => ({ y: NaN, x: NaN, timeMs: NaN });

/**
 * The value of a derived signal now, NaN while a source has none; where values are simply put together (sum, highest and
 * their like), one that was never heard lies at its rest, as a fader does that nobody touched. Called when a source got a sample, and on ticks for
 * those that move by themselves.
 * @param values the value of every signal by index
 */
export function derive(planned: PlannedDerived, state: DerivedState, values: Float64Array, timeMs: number): number {
  const { rig, sources } = planned;
  const { formula } = rig;
  if (putsTogether(formula)) return combine(formula.op, values, planned);
  for (const source of sources) if (Number.isNaN(values[source]!)) return NaN;
  switch (formula.op) {
    case 'constant':
      return formula.value;
    case 'distance':
      return distance(values, sources);
    case 'tilt': {
      const tilt = formula.axis === 'pitch' ? pitchDeg : rollDeg;
      return tilt(values[sources[0]!]!, values[sources[1]!]!, values[sources[2]!]!);
    }
    case 'speed':
      return speed(planned, state, values[sources[0]!]!, timeMs);
    case 'accumulate': {
      const x = values[sources[0]!]!;
      const before = Number.isNaN(state.y) ? Math.min(Math.max(0, formula.lo), formula.hi) : state.y;
      state.y = Number.isNaN(state.timeMs) ? before : accumulate(before, state.x, x, timeMs - state.timeMs, formula.leakPerS ?? 0, formula.lo, formula.hi);
      state.x = x;
      state.timeMs = timeMs;
      return state.y;
    }
    case 'envelope': {
      const x = values[sources[0]!]!;
      if (Number.isNaN(state.timeMs)) state.y = x;
      else state.y = attackRelease(state.y, state.x, x, timeMs - state.timeMs, formula.attackMs, formula.releaseMs);
      state.x = x;
      state.timeMs = timeMs;
      return state.y;
    }
    case 'hold': {
      const gate = values[sources[1]!]! > 0;
      // The memory of the gate: what it was when it was looked at last.
      if (gate && !(state.x > 0)) state.y = values[sources[0]!]!;
      state.x = gate ? 1 : 0;
      return state.y;
    }
    case 'oscillator': {
      const rateHz = planned.rate >= 0 ? values[planned.rate]! : (formula.rateHz as number);
      const depth = planned.depth >= 0 ? values[planned.depth]! : (formula.depth as number);
      state.y = Number.isNaN(state.timeMs) ? 0 : nextPhase(state.y, rateHz, timeMs - state.timeMs);
      state.timeMs = timeMs;
      return depth * wave(formula.shape, state.y, planned.seed);
    }
    case 'magnitude':
      return magnitude(values, sources);
    default:
      return formula satisfies never;
  }
}

type PutTogether = Extract<Formula, { op: 'sum' | 'difference' | 'product' | 'minimum' | 'maximum' | 'average' }>;

const PUT_TOGETHER: ReadonlySet<Formula['op']> = new Set(['sum', 'difference', 'product', 'minimum', 'maximum', 'average']);

function putsTogether(formula: Formula): formula is PutTogether {
  return PUT_TOGETHER.has(formula.op);
}

function combine(op: PutTogether['op'], values: Float64Array, { sources, rests }: PlannedDerived): number {
  let result = NaN;
  let heard = false;
  for (let i = 0; i < sources.length; i++) {
    const known = values[sources[i]!]!;
    heard ||= !Number.isNaN(known);
    const value = Number.isNaN(known) ? rests[i]! : known;
    if (i === 0) result = value;
    else if (op === 'difference') result -= value;
    else if (op === 'product') result *= value;
    else if (op === 'minimum') result = Math.min(result, value);
    else if (op === 'maximum') result = Math.max(result, value);
    else result += value;
  }
  if (!heard) return NaN;
  return op === 'average' ? result / sources.length : result;
}

/** Sources: the axes of one point, then those of the other. */
function distance(values: Float64Array, sources: number[]): number {
  const axes = sources.length / 2;
  let square = 0;
  for (let i = 0; i < axes; i++) {
    const way = values[sources[i]!]! - values[sources[axes + i]!]!;
    square += way * way;
  }
  return Math.sqrt(square);
}

function speed(planned: PlannedDerived, state: DerivedState, x: number, timeMs: number): number {
  if (Number.isNaN(state.timeMs)) {
    state.x = x;
    state.timeMs = timeMs;
    return (state.y = 0);
  }
  const dtMs = timeMs - state.timeMs;
  const way = periodicDifference(x, state.x, planned.period);
  if (way !== 0 && dtMs >= NEAREST_MS) {
    state.y = (way / dtMs) * 1000;
    state.x = x;
    state.timeMs = timeMs;
  } else if (way === 0 && dtMs >= STILL_MS) {
    state.y = 0;
    state.timeMs = timeMs;
  }
  return state.y;
}

function magnitude(values: Float64Array, sources: number[]): number {
  let square = 0;
  for (let i = 0; i < sources.length; i++) square += values[sources[i]!]! ** 2;
  return Math.sqrt(square);
}
