import { setSignal } from './drive';
import type { Running } from './running';
import { lookAtDerivedTriggers } from './scenes';

/** The value that a signal of an input had in an earlier run: nobody plays it, so it starts and recalls nothing. False where there is no such signal. */
export function restoreSignal(r: Running, signal: number, value: number): boolean {
  if (!r.plan.rig.signals[signal]) return false;
  r.memory.times.moved(signal, r.nowMs, true);
  r.ensemble.isRestored = true;
  setSignal(r, signal, value);
  r.ensemble.isRestored = false;
  lookAtDerivedTriggers(r);
  return true;
}
