import { performance } from 'node:perf_hooks';

/** The hub's clock, `hubTimeMs`: milliseconds since 1970 that never run backwards. The only place that reads it. */
export function hubTimeMs(): number {
  return performance.timeOrigin + performance.now();
}
