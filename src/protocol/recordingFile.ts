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

/**
 * Reads recorded signals: CSV with the columns time, signal, value (a heading is optional), or JSON lines with `timeMs` (or
 * `time`), `signal` and `value`. Times are in ms; they are sorted and counted from the first. A broken line is named and
 * left out. Null where no line is good.
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
  const samples: { timeMs: number; signal: string; value: number }[] = [];
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
  const signals = [...new Set(samples.map(({ signal }) => signal))];
  const place = new Map(signals.map((signal, i) => [signal, i]));
  const startMs = samples[0]!.timeMs;
  return {
    recording: {
      name,
      signals,
      timesMs: samples.map(({ timeMs }) => timeMs - startMs),
      which: samples.map(({ signal }) => place.get(signal)!),
      values: samples.map(({ value }) => value),
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
  const { data, errors } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' });
  for (const { row, message } of errors) if (row !== undefined) bad(row + 1, message);
  const first = data[0]?.map((cell) => cell.trim().toLowerCase()) ?? [];
  const hasHeading = first.includes('signal');
  const places = COLUMNS.map((column, i) => (hasHeading ? first.findIndex((cell) => cell === column || (column === 'time' && cell === 'timems')) : i));
  return data.flatMap((cells, i): Row[] => {
    if (i === 0 && hasHeading) return [];
    const [time, signal, value] = places.map((place) => cells[place]?.trim());
    return [{ line: i + 1, time: time === undefined || time === '' ? undefined : Number(time), signal, value: value === undefined || value === '' ? undefined : Number(value) }];
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

function sampleOf({ line, time, signal, value }: Row, bad: (line: number, message: string) => void): { timeMs: number; signal: string; value: number } | null {
  if (typeof time !== 'number' || !Number.isFinite(time)) bad(line, 'its time is not a number of milliseconds.');
  else if (typeof signal !== 'string' || signal === '') bad(line, 'it names no signal.');
  else if (signal.length > LIMITS.nameLength) bad(line, `its signal has more than ${LIMITS.nameLength} letters.`);
  else if (typeof value !== 'number' || !Number.isFinite(value)) bad(line, 'its value is not a finite number.');
  else return { timeMs: time, signal, value };
  return null;
}
