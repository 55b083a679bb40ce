/** What moved so long ago is still shown where nothing was chosen. */
const LATELY_MS = 60_000;
/** More would be too small to be read from afar. */
export const MOST_ON_STAGE = 12;

/** A mapping or voice mapping, as far as Stage chooses by it. */
interface Shown {
  id: string;
  onStage?: number;
}

/** What a performer chose to see on Stage, in the order chosen. */
export function chosenForStage<T extends Shown>(mappings: readonly T[]): T[] {
  return mappings.filter(({ onStage }) => onStage !== undefined).sort((a, b) => a.onStage! - b.onStage!);
}

/** The number that puts one more mapping behind those that were chosen. */
export function nextOnStage(mappings: readonly Pick<Shown, 'onStage'>[]): number {
  return Math.max(0, ...mappings.map(({ onStage = 0 }) => onStage)) + 1;
}

/**
 * What Stage shows: what was chosen; else what moved in the last minute, in the order of the list so that nothing jumps, and of
 * too many those that moved last.
 * @param heardMs when a mapping moved last, null for never
 */
export function shownOnStage<T extends Shown>(mappings: readonly T[], heardMs: (id: string) => number | null, nowMs: number): T[] {
  const chosen = chosenForStage(mappings);
  if (chosen.length > 0) return chosen.slice(0, MOST_ON_STAGE);
  const agoMs = (id: string) => nowMs - (heardMs(id) ?? -Infinity);
  const lately = mappings.filter(({ id }) => agoMs(id) <= LATELY_MS);
  const kept = new Set([...lately].sort((a, b) => agoMs(a.id) - agoMs(b.id)).slice(0, MOST_ON_STAGE));
  return lately.filter((mapping) => kept.has(mapping));
}
