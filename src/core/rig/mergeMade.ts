/**
 * A thing as it is now, with what somebody made of it from how it was when they opened it: what they did not touch is as others have it by
 * now. Fields within fields alike; lists count as a whole.
 */
export function mergeMade<T extends object>(now: T, opened: T, made: T): T {
  const entries = [...new Set([...Object.keys(now), ...Object.keys(made)])].flatMap((key) => {
    const [is, was, to] = [now, opened, made].map((thing) => (thing as Record<string, unknown>)[key]);
    const value = to === was ? is : isFields(is) && isFields(was) && isFields(to) ? mergeMade(is, was, to) : to;
    return value === undefined ? [] : [[key, value] as const];
  });
  return Object.fromEntries(entries) as T;
}

const isFields = (value: unknown): value is object => typeof value === 'object' && value !== null && !Array.isArray(value);
