import Papa from 'papaparse';
import { LIMITS } from './limits';
import type { LineProblem, Recording } from './recording';

export interface ReadRecording {
  recording: Omit<Recording, 'id'>;
  /** The first few problems, and how many there were. */
  problems: LineProblem[];
  badLines: number;
}

const COLUMNS = ['time', 'signal', 'value'] as const;

interface Row {
  line: number;
  time: unknown;
  signal: unknown;
  value: unknown;
}

interface Sample {
  line: number;
  timeMs: number;
  signal: string;
  value: number;
}

/**
 * Reads recorded signals: CSV with the columns time, signal, value (a heading is optional; with semicolons or tabs also decimal commas,
 * as spreadsheets write them), or JSON lines with `timeMs` (or `time`), `signal` and `value`. Times are in ms; they are sorted and
 * counted from the first. A broken line is named and left out, and so is one whose time lies hours from most others: sensors say
 * nought before they know what time it is. Null where no line is good.
 */
export function readRecording(text: string, name: string): ReadRecording | { recording: null; problems: LineProblem[]; badLines: number } {
  const problems: LineProblem[] = [];
  let badLines = 0;
  const bad = (line: number, message: string) => {
    badLines++;
    if (problems.length < LIMITS.recordingProblems) problems.push({ line, message });
  };
  const clean = text.replace(/^\uFEFF/, '');
  const rows = clean.trimStart().startsWith('{') ? jsonRows(clean, bad) : csvRows(clean, bad);
  const samples: Sample[] = [];
  for (const row of rows) {
    const sample = sampleOf(row, bad);
    if (!sample) continue;
    if (samples.length < LIMITS.recordingSamples) samples.push(sample);
    else {
      bad(row.line, `a recording holds at most ${LIMITS.recordingSamples.toLocaleString('en')} samples: what comes after is left out.`);
      break;
    }
  }
  if (samples.length === 0) return { recording: null, problems, badLines };
  samples.sort((a, b) => a.timeMs - b.timeMs);
  const middleMs = samples[samples.length >> 1]!.timeMs;
  const near = samples.filter(({ line, timeMs }) => {
    const isNear = Math.abs(timeMs - middleMs) <= LIMITS.takeMs / 2;
    if (!isNear) bad(line, `its time lies more than ${LIMITS.takeMs / 2 / 3_600_000} hours from those of most others.`);
    return isNear;
  });
  const signals = [...new Set(near.map(({ signal }) => signal))];
  const place = new Map(signals.map((signal, i) => [signal, i]));
  const startMs = near[0]!.timeMs;
  return {
    recording: {
      name,
      signals,
      timesMs: near.map(({ timeMs }) => timeMs - startMs),
      which: near.map(({ signal }) => place.get(signal)!),
      values: near.map(({ value }) => value),
    },
    problems,
    badLines,
  };
}

/** The same as a file, in CSV. */
export function writeRecordingCsv(rows: readonly { timeMs: number; signal: string; value: number }[]): string {
  return Papa.unparse({ fields: [...COLUMNS], data: rows.map(({ timeMs, signal, value }) => [timeMs, signal, value]) }, { newline: '\n' });
}

function csvRows(text: string, bad: (line: number, message: string) => void): Row[] {
  const { data, errors, meta } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' });
  // Where the comma is for decimals, spreadsheets part their columns by something else.
  const numberOf = (cell: string | undefined) => (cell === undefined || cell === '' ? undefined : Number(meta.delimiter === ',' ? cell : cell.replace(',', '.')));
  for (const { row, message } of errors) if (row !== undefined) bad(row + 1, message);
  // Rows that are empty are no rows to the package, but lines to whoever looks into the file.
  const lines = text.split(/\r\n|\n|\r/).flatMap((line, i) => (line.replaceAll(meta.delimiter, '').replaceAll('"', '').trim() === '' ? [] : [i + 1]));
  const first = data[0]?.map((cell) => cell.trim().toLowerCase()) ?? [];
  const hasHeading = first.includes('signal');
  const places = COLUMNS.map((column, i) => (hasHeading ? first.findIndex((cell) => cell === column || (column === 'time' && cell === 'timems')) : i));
  return data.flatMap((cells, i): Row[] => {
    if (i === 0 && hasHeading) return [];
    const [time, signal, value] = places.map((place) => cells[place]?.trim());
    return [{ line: lines[i] ?? i + 1, time: numberOf(time), signal, value: numberOf(value) }];
  });
}

function jsonRows(text: string, bad: (line: number, message: string) => void): Row[] {
  return text.split('\n').flatMap((line, i): Row[] => {
    if (line.trim() === '') return [];
    try {
      const { timeMs, time, signal, value } = JSON.parse(line) as Record<string, unknown>;
      return [{ line: i + 1, time: timeMs ?? time, signal, value }];
    } catch {
      bad(i + 1, 'is not JSON.');
      return [];
    }
  });
}

function sampleOf({ line, time, signal, value }: Row, bad: (line: number, message: string) => void): Sample | null {
  if (typeof time !== 'number' || !Number.isFinite(time)) bad(line, 'its time is not a number of milliseconds.');
  else if (typeof signal !== 'string' || signal === '') bad(line, 'it names no signal.');
  else if (signal.length > LIMITS.nameLength) bad(line, `its signal has more than ${LIMITS.nameLength} letters.`);
  else if (typeof value !== 'number' || !Number.isFinite(value)) bad(line, 'its value is not a finite number.');
  else return { line, timeMs: time, signal, value };
  return null;
}
