import { OCTAVE } from './degrees';

export const ORDERS = ['up', 'down', 'both', 'as played', 'random', 'chord'] as const;
export type Order = (typeof ORDERS)[number];

/**
 * The pitches that an arpeggio goes through before it begins again, over so many octaves. `both` does not say its ends twice;
 * `random` and `chord` have the same pitches as `up`, for whoever draws from them.
 * @param played the held pitches in the order in which they were struck
 */
export function sequenceOf(order: Order, played: readonly number[], octaves: number): number[] {
  const from = order === 'as played' ? [...played] : [...new Set(played)].sort((a, b) => a - b);
  const up = Array.from({ length: octaves }, (_, octave) => from.map((pitch) => pitch + octave * OCTAVE)).flat();
  if (order === 'down') return up.reverse();
  if (order === 'both') return [...up, ...up.slice(1, -1).reverse()];
  return up;
}
