interface NumberLimits {
  label: string;
  min: number;
  max: number;
  /** Figures after the point; absent: as typed. */
  precision?: number;
}

/** Arabic and Persian ones; in Unicode the last four bits of each are its value. */
const OTHER_DIGITS = /[\u0660-\u0669\u06f0-\u06f9]/g;
/** The comma, and what Arabic writes for it. */
const DECIMAL_COMMA = /[,\u066b]/;

/**
 * The number that somebody typed, with a decimal point or a decimal comma, in wide digits of a Japanese or Chinese keyboard too or in Arabic ones, within its limits; null where there is none. A
 * sentence where something else is used than what was typed.
 */
export function readNumber(text: string, { label, min, max, precision }: NumberLimits): { number: number | null; sentence?: string } {
  const plain = text
    .normalize('NFKC')
    .trim()
    .replace(OTHER_DIGITS, (digit) => String(digit.charCodeAt(0) & 0xf))
    .replace('−', '-')
    .replace(DECIMAL_COMMA, '.');
  if (plain === '') return { number: null };
  const number = Number(plain);
  if (!Number.isFinite(number)) return { number: null, sentence: `${label} takes a number, and “${text.trim().slice(0, 30)}” is none: it stays as it was.` };
  const within = Math.min(max, Math.max(min, number));
  const rounded = precision === undefined ? within : Number(within.toFixed(precision));
  return within === number ? { number: rounded } : { number: rounded, sentence: `${label} goes from ${min} to ${max}: ${text.trim().slice(0, 30)} became ${rounded}.` };
}
