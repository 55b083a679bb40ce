import { clamp } from '../units/unitInterval';

export const OSCILLATOR_SHAPES = ['sine', 'triangle', 'saw', 'square', 'random'] as const;
export type OscillatorShape = (typeof OSCILLATOR_SHAPES)[number];

export const LOWEST_RATE_HZ = 0.01;
export const HIGHEST_RATE_HZ = 40;

/** The phase after `dtMs` at a rate; whole turns are kept, so that `random` knows in which step it is. */
export function nextPhase(phase: number, rateHz: number, dtMs: number): number {
  return phase + (clamp(rateHz, LOWEST_RATE_HZ, HIGHEST_RATE_HZ) * Math.max(dtMs, 0)) / 1000;
}

/** The wave at a phase in turns, in [-1, 1]; all but `random` begin at 0 (square: at 1) and rise. */
export function wave(shape: OscillatorShape, phase: number, seed: number): number {
  const turn = phase - Math.floor(phase);
  switch (shape) {
    case 'sine':
      return Math.sin(2 * Math.PI * turn);
    case 'triangle':
      return turn < 0.25 ? 4 * turn : turn < 0.75 ? 2 - 4 * turn : 4 * turn - 4;
    case 'saw':
      return turn < 0.5 ? 2 * turn : 2 * turn - 2;
    case 'square':
      return turn < 0.5 ? 1 : -1;
    case 'random':
      return 2 * chance(seed, Math.floor(phase)) - 1;
    default:
      return shape satisfies never;
  }
}

/** A number in [0, 1) that depends on the seed and the step alone (integer hash with the multipliers of splitmix32). */
export function chance(seed: number, step: number): number {
  let z = (seed + Math.imul(step + 1, 0x9e3779b9)) | 0;
  z = Math.imul(z ^ (z >>> 16), 0x21f0aaad);
  z = Math.imul(z ^ (z >>> 15), 0x735a2d97);
  return ((z ^ (z >>> 15)) >>> 0) / 0x1_0000_0000;
}
