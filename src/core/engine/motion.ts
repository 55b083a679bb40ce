import type { Motion } from '../rig/document';
import { clampUnit } from '../units/unitInterval';
import { SLOT } from './slots';

/** A gate that moves a level was pressed or released. */
export function startMotion(motion: Motion, state: Float64Array, at: number, timeMs: number, on: boolean): void {
  if (Number.isNaN(state[at + SLOT.motion]!)) state[at + SLOT.motion] = motion.kind === 'ramp' ? motion.offLevel : 0;
  state[at + SLOT.motionMs] = timeMs;
  if (on) state[at + SLOT.climbMs] = timeMs;
}

/**
 * Moves the level on to `timeMs`. A ramp takes its up or down time from end to end; a climb goes on as long as the
 * gate is on, ever faster where it accelerates, and stays where it is afterwards.
 * @returns whether it is still on its way
 */
export function moveMotion(motion: Motion, state: Float64Array, at: number, timeMs: number, on: boolean): boolean {
  const level = state[at + SLOT.motion]!;
  if (Number.isNaN(level)) return false;
  const sinceMs = state[at + SLOT.motionMs]!;
  state[at + SLOT.motionMs] = timeMs;
  switch (motion.kind) {
    case 'ramp': {
      const goal = on ? motion.onLevel : motion.offLevel;
      const wholeMs = on ? motion.upMs : motion.downMs;
      const most = wholeMs > 0 ? (Math.abs(motion.onLevel - motion.offLevel) * (timeMs - sinceMs)) / wholeMs : Infinity;
      const moved = Math.abs(goal - level) <= most ? goal : level + Math.sign(goal - level) * most;
      state[at + SLOT.motion] = moved;
      return moved !== goal;
    }
    case 'climb': {
      if (!on) return false;
      // The way of a body that starts with perS and accelerates, between two times since the press.
      const from = (sinceMs - state[at + SLOT.climbMs]!) / 1000;
      const to = (timeMs - state[at + SLOT.climbMs]!) / 1000;
      const way = motion.perS * (to - from) + (Math.sign(motion.perS) * motion.accelerationPerS2 * (to * to - from * from)) / 2;
      state[at + SLOT.motion] = clampUnit(level + way);
      return true;
    }
    default:
      return motion satisfies never;
  }
}
