/** Lengths of steps in beats, as people call them. */
export const RATES: readonly { value: number; label: string }[] = [
  { value: 4, label: 'whole' },
  { value: 2, label: 'half' },
  { value: 1, label: 'quarter' },
  { value: 0.75, label: 'dotted eighth' },
  { value: 2 / 3, label: 'quarter triplet' },
  { value: 0.5, label: 'eighth' },
  { value: 1 / 3, label: 'eighth triplet' },
  { value: 0.25, label: 'sixteenth' },
  { value: 1 / 6, label: 'sixteenth triplet' },
  { value: 0.125, label: 'thirty-second' },
];

const NEAR = 1e-3;

/** The rate that a number of beats is, or the number itself where it has no name. */
export function rateOptions(beats: number): { options: { value: number; label: string }[]; value: number } {
  const known = RATES.find(({ value }) => Math.abs(value - beats) < NEAR);
  return known ? { options: [...RATES], value: known.value } : { options: [...RATES, { value: beats, label: `${Number(beats.toFixed(3))} beats` }], value: beats };
}
