import { performance } from 'node:perf_hooks';
import { LIMITS } from '../protocol/limits';

/** The hub's clock, `hubTimeMs`: milliseconds since 1970 that never run backwards. The only place that reads it. */
export function hubTimeMs(): number {
  return performance.timeOrigin + performance.now();
}

/** A page's clock is only an estimate of ours: a sample cannot lie in the future, nor far in the past. */
export function believable(saidMs: number): number {
  const nowMs = hubTimeMs();
  return saidMs > nowMs || saidMs < nowMs - LIMITS.sampleAgeMs ? nowMs : saidMs;
}
