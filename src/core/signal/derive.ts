import type { Formula, RigDerived } from '../rig/document';
import { onePole } from '../shaping/onePole';
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
 * The value of a derived signal now, NaN while a source has none. Called when a source got a sample, and on ticks for
 * those that move by themselves.
 * @param values the value of every signal by index
 */
export function derive(planned: PlannedDerived, state: DerivedState, values: Float64Array, timeMs: number): number {
  const { rig, sources } = planned;
  for (const source of sources) if (Number.isNaN(values[source]!)) return NaN;
  const { formula } = rig;
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
      else state.y = onePole(state.y, state.x, state.x, timeMs - state.timeMs, state.x > state.y ? formula.attackMs : formula.releaseMs);
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
    default:
      return combine(formula.op, values, sources);
  }
}

type Combining = Extract<Formula, { of: string[] }>['op'];

function combine(op: Exclude<Combining, 'tilt'>, values: Float64Array, sources: number[]): number {
  let result = values[sources[0]!]!;
  if (op === 'magnitude') result *= result;
  for (let i = 1; i < sources.length; i++) {
    const value = values[sources[i]!]!;
    switch (op) {
      case 'sum':
      case 'average':
        result += value;
        break;
      case 'difference':
        result -= value;
        break;
      case 'product':
        result *= value;
        break;
      case 'minimum':
        result = Math.min(result, value);
        break;
      case 'maximum':
        result = Math.max(result, value);
        break;
      case 'magnitude':
        result += value * value;
        break;
      default:
        return op satisfies never;
    }
  }
  return op === 'average' ? result / sources.length : op === 'magnitude' ? Math.sqrt(result) : result;
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
