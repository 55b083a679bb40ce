/** The short way from `before` to `now` where values start again after `period`: 359 to 1 with 360 is 2. */
export function periodicDifference(now: number, before: number, period: number): number {
  const difference = now - before;
  return period > 0 ? difference - period * Math.round(difference / period) : difference;
}

/** Of all that an angle may be said as, what lies nearest to `place`: 1 near 359 is 361. Without a period it is itself. */
export function turnNearest(value: number, place: number, period: number): number {
  return period > 0 ? value - period * Math.round((value - place) / period) : value;
}
