/** Whether something stays where it is is asked for so long, which is how often ticks come. */
export const REST_MS = 4;
/** What was at rest goes off with the sample that moves it, in no time. */
export const AT_ONCE_MS = 1e-6;

/** Whether what a tick would make of a value is that value, but for rounding: what runs out would else take minutes to be nothing. */
export const isSame = (next: number, value: number): boolean => Math.abs(next - value) <= Number.EPSILON * Math.max(1, Math.abs(value));
