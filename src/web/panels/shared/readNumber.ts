interface NumberLimits {
  label: string;
  min: number;
  max: number;
  /** Figures after the point; absent: as typed. */
  precision?: number;
}

/**
 * The number that somebody typed, with a decimal point or a decimal comma, within its limits; null where there is none. A
 * sentence where something else is used than what was typed.
 */
export function readNumber(text: string, { label, min, max, precision }: NumberLimits): { number: number | null; sentence?: string } {
  const plain = text.trim().replace('−', '-').replace(',', '.');
  if (plain === '') return { number: null };
  const number = Number(plain);
  if (!Number.isFinite(number)) return { number: null, sentence: `${label} takes a number, and “${text.trim().slice(0, 30)}” is none: it stays as it was.` };
  const within = Math.min(max, Math.max(min, number));
  const rounded = precision === undefined ? within : Number(within.toFixed(precision));
  return within === number ? { number: rounded } : { number: rounded, sentence: `${label} goes from ${min} to ${max}: ${text.trim().slice(0, 30)} became ${rounded}.` };
}
