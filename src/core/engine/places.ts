import { NONE } from './planMapping';

/** Finds things by a name: at the place where it is expected, else wherever it is; NONE where there is none. */
export function placesBy<T>(things: readonly T[], nameOf: (thing: T) => string): (name: string, expected: number) => number {
  let places: Map<string, number> | null = null;
  return (name, expected) => {
    const there = things[expected];
    if (there !== undefined && nameOf(there) === name) return expected;
    places ??= new Map(things.map((thing, i) => [nameOf(thing), i]));
    return places.get(name) ?? NONE;
  };
}
