import { performance } from 'node:perf_hooks';
import { LIMITS } from '../protocol/limits';

/** It never changes, and to ask for it takes as long as to ask for the time. */
const ORIGIN_MS = performance.timeOrigin;

/**
 * The hub's clock, `hubTimeMs`: milliseconds since 1970 that never run backwards. The only place that reads it. It stands still while the
 * computer sleeps, and is not moved where the calendar is put right.
 */
export function hubTimeMs(): number {
  return ORIGIN_MS + performance.now();
}

/** What the calendar says, for what others date by theirs: milliseconds since 1970, which may jump either way. */
export function calendarMs(): number {
  return Date.now();
}

/** A page's clock is only an estimate of ours: a sample cannot lie in the future, nor far in the past. */
export function believable(saidMs: number): number {
  const nowMs = hubTimeMs();
  return saidMs > nowMs || saidMs < nowMs - LIMITS.sampleAgeMs ? nowMs : saidMs;
}
