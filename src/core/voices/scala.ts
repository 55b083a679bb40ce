import type { KeyMap } from './tuning';

/**
 * Reads scale files (.scl) and keyboard mappings (.kbm) by the published description of the Scala formats
 * (huygens-fokker.org/scala/scl_format.html and help.html#mappings; from memory). Lines that begin with `!` are comments. Errors name
 * the line, from 1.
 */
export type Read<T> = { ok: true; value: T } | { ok: false; message: string };

export interface ScaleFile {
  description: string;
  /** Of degree 1 up to the period. */
  cents: number[];
}

const NOTES_MOST = 1024;
const CENTS_PER_OCTAVE = 1200;
/** Ten octaves. */
const CENTS_MOST = 12_000;
const KEYS_MOST = 127;

interface Line {
  text: string;
  number: number;
}

const linesOf = (text: string): Line[] =>
  text
    .split(/\r\n|\r|\n/)
    .map((line, i) => ({ text: line.trim(), number: i + 1 }))
    .filter(({ text: line }) => !line.startsWith('!'));
const wrong = (line: number, expected: string, found: string): { ok: false; message: string } => ({ ok: false, message: `line ${line}: expected ${expected}, found ${found === '' ? 'nothing' : `"${found.slice(0, 60)}"`}` });
const endOf = (lines: readonly Line[]) => (lines.at(-1)?.number ?? 0) + 1;

/** What follows the first word of a line is a remark. */
const firstWord = ({ text }: Line) => text.split(/\s+/, 1)[0] ?? '';

export function readScl(text: string): Read<ScaleFile> {
  const [description, count, ...rest] = linesOf(text);
  if (!description) return wrong(1, 'a description', '');
  const notes = count ? Number(firstWord(count)) : NaN;
  if (!count || firstWord(count) === '' || !Number.isInteger(notes) || notes < 1 || notes > NOTES_MOST) return wrong(count?.number ?? endOf([description]), `the number of notes, 1 to ${NOTES_MOST}`, count?.text ?? '');
  const lines = rest.filter(({ text: line }) => line !== '');
  const cents: number[] = [];
  for (let i = 0; i < notes; i++) {
    const line = lines[i];
    if (!line) return wrong(endOf([description, count, ...lines]), `note ${i + 1} of ${notes}`, '');
    const value = centsOf(firstWord(line));
    if (value === null) return wrong(line.number, 'cents with a period (as 701.955) or a ratio (as 3/2)', line.text);
    cents.push(value);
  }
  if (lines.length > notes) return wrong(lines[notes]!.number, `no more than the ${notes} notes that were announced`, lines[notes]!.text);
  const period = cents.at(-1)!;
  if (!(period > 0)) return wrong(lines[notes - 1]!.number, 'a last note above the first, after which the scale begins again', lines[notes - 1]!.text);
  return { ok: true, value: { description: description.text, cents } };
}

/** Steps above the root as a person writes them, the last being where the scale begins again: cents, or ratios with a slash. */
export function readSteps(text: string): Read<number[]> {
  const words = text.split(/[\s;]+/).filter((word) => word !== '');
  if (words.length === 0 || words.length > NOTES_MOST) return { ok: false, message: `expected 1 to ${NOTES_MOST} steps, found ${words.length}` };
  const cents: number[] = [];
  for (const word of words) {
    const value = /^-?\d+$/.test(word) ? Number(word) : centsOf(word.replace(',', '.'));
    if (value === null || Math.abs(value) > CENTS_MOST) return { ok: false, message: `expected cents (as 702) or a ratio (as 3/2), found "${word.slice(0, 60)}"` };
    cents.push(value);
  }
  if (!(cents.at(-1)! > 0)) return { ok: false, message: 'expected a last step above 0, after which the scale begins again' };
  return { ok: true, value: cents };
}

/** Cents where there is a period, else a ratio; null for what is neither. */
function centsOf(word: string): number | null {
  if (/^-?\d*\.\d*$/.test(word) && /\d/.test(word)) return Number(word);
  const ratio = /^(\d+)(?:\/(\d+))?$/.exec(word);
  const [above, below] = [Number(ratio?.[1]), Number(ratio?.[2] ?? 1)];
  return ratio && above > 0 && below > 0 ? CENTS_PER_OCTAVE * Math.log2(above / below) : null;
}

const KBM = ['the size of the map', 'the first key', 'the last key', 'the middle key', 'the reference key', 'the frequency of the reference key', 'the degree of the period'] as const;

export function readKbm(text: string): Read<KeyMap> {
  const lines = linesOf(text).filter(({ text: line }) => line !== '');
  const numbers: number[] = [];
  for (const [i, what] of KBM.entries()) {
    const line = lines[i];
    const number = line ? Number(firstWord(line)) : NaN;
    const isHz = i === 5;
    const good = isHz ? number > 0 && number < 1e6 : Number.isInteger(number) && number >= 0 && number <= (i === 0 || i === 6 ? NOTES_MOST : KEYS_MOST);
    if (!line || !good) return wrong(line?.number ?? endOf(lines), isHz ? `${what} in Hz` : what, line?.text ?? '');
    numbers.push(number);
  }
  const [size, first, last, middle, key, hz, period] = numbers as [number, number, number, number, number, number, number];
  const degrees: (number | null)[] = [];
  for (let i = 0; i < size; i++) {
    const line = lines[KBM.length + i];
    const word = line ? firstWord(line) : 'x';
    // Missing lines at the end stand for keys that play nothing.
    const degree = word.toLowerCase() === 'x' ? null : Number(word);
    if (degree !== null && (!Number.isInteger(degree) || Math.abs(degree) > NOTES_MOST)) return wrong(line!.number, 'a degree, or x for a key that plays nothing', line!.text);
    degrees.push(degree);
  }
  const beyond = lines[KBM.length + size];
  if (beyond) return wrong(beyond.number, `no more than the ${size} keys that were announced`, beyond.text);
  return { ok: true, value: { first, last, middle, reference: { key, hz }, period, degrees } };
}
