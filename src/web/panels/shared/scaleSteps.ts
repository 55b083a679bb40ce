import { readSteps } from '../../../core/voices/scala';

/** Steps of a scale as a field shows them. */
export const stepsInWords = (cents: readonly number[]): string => cents.map((step) => Number(step.toFixed(3))).join(' ');

/** Throws a sentence where the text is no steps. */
export function stepsFrom(text: string): number[] {
  const read = readSteps(text);
  if (!read.ok) throw new Error(`Steps: ${read.message}; nothing was changed.`);
  return read.value;
}
