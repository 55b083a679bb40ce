import type { RigDocument } from '../rig/document';

interface Named {
  id: string;
  name: string;
}

/** What of a rig is needed to show a take: names, the range of what it draws, and the tempo of its grid. */
export interface TakeRig {
  tempoBpm: number;
  outputs: (Named & { bendRangeSemitones: number })[];
  mappings: Named[];
  signals: (Named & { range: [number, number] })[];
}

export function shownOf({ tempoBpm, outputs, receivers, mappings, voiceMappings, signals }: RigDocument): TakeRig {
  const bendRange = (receiver: string) => receivers.find((one) => one.id === receiver)?.bendRangeSemitones ?? 2;
  return {
    tempoBpm,
    outputs: outputs.map(({ id, name, receiver }) => ({ id, name, bendRangeSemitones: bendRange(receiver) })),
    mappings: [...mappings, ...voiceMappings].map(({ id, name }) => ({ id, name })),
    signals: signals.map(({ id, name, range }) => ({ id, name, range })),
  };
}

/** What a version shows that the rig that its take began with does not have. */
export type ShownBeyond = Omit<TakeRig, 'tempoBpm'>;

/** The first, and what it does not have of the others: a take that was edited, or went through another rig, shows things of several. */
export function shownTogether(first: TakeRig, ...others: readonly ShownBeyond[]): TakeRig {
  const { tempoBpm } = first;
  const all = [first, ...others];
  return { tempoBpm, outputs: firstOfEach(all.flatMap(({ outputs }) => outputs)), mappings: firstOfEach(all.flatMap(({ mappings }) => mappings)), signals: firstOfEach(all.flatMap(({ signals }) => signals)) };
}

/** What of it another does not have. */
export function shownBeyond(shown: TakeRig, known: TakeRig): ShownBeyond {
  return { outputs: unknown(shown.outputs, known.outputs), mappings: unknown(shown.mappings, known.mappings), signals: unknown(shown.signals, known.signals) };
}

function firstOfEach<T extends Named>(things: readonly T[]): T[] {
  const first = new Map<string, T>();
  for (const thing of things) if (!first.has(thing.id)) first.set(thing.id, thing);
  return [...first.values()];
}

function unknown<T extends Named>(things: readonly T[], known: readonly Named[]): T[] {
  const ids = new Set(known.map(({ id }) => id));
  return things.filter(({ id }) => !ids.has(id));
}
