import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus, loadavg } from 'node:os';

/** One measured number beside the floor of the same run. */
export interface Figure {
  name: string;
  value: number;
  unit: string;
  floor: number | null;
  ratio: number | null;
  /** What is wanted of the value, or of its ratio to the floor; null where it is only watched. */
  aim: number | null;
  aimOf: 'ratio' | 'value' | null;
  better: 'lower' | 'higher';
}

type Aim = Pick<Figure, 'aim' | 'aimOf'>;

export const aimAt = (aim: number): Aim => ({ aim, aimOf: 'value' });
export const aimAtRatio = (aim: number): Aim => ({ aim, aimOf: 'ratio' });
const NO_AIM: Aim = { aim: null, aimOf: null };

/** @throws Error where nothing was measured */
export function figure(name: string, value: number, unit: string, floor: number | null, aim: Aim | null, better: Figure['better']): Figure {
  if (Number.isNaN(value)) throw new Error(`${name}: nothing was measured; see what the page or the program shows instead.`);
  const round = (x: number) => Number(x.toPrecision(4));
  return { name, value: round(value), unit, floor: floor === null ? null : round(floor), ratio: floor ? round(value / floor) : null, ...(aim ?? NO_AIM), better };
}

/** Share of the time since the start that other machines on the same host took from ours (Linux; null elsewhere). */
function stolenShare(): number | null {
  const now = readTimes();
  return now && atStart ? Number(((now.stolen - atStart.stolen) / (now.all - atStart.all)).toFixed(3)) : null;
}

const atStart = readTimes();

function readTimes(): { stolen: number; all: number } | null {
  try {
    const times = readFileSync('/proc/stat', 'utf8').split('\n')[0]!.split(/\s+/).slice(1).map(Number);
    return { stolen: times[7]!, all: times.slice(0, 8).reduce((sum, time) => sum + time, 0) };
  } catch {
    return null;
  }
}

/** Prints the figures as a table and writes them, with the date, the processor and the load, to bench/results. */
export function report(bench: string, figures: Figure[]): void {
  const machine = { date: new Date().toISOString(), processor: cpus()[0]!.model, cores: cpus().length, load: loadavg().map((load) => Number(load.toFixed(2))), stolen: stolenShare(), node: process.version };
  console.log(`\n${bench}, ${machine.date}, ${machine.cores} x ${machine.processor}, load ${machine.load.join(' ')}, stolen ${machine.stolen ?? '?'}`);
  console.table(Object.fromEntries(figures.map(({ name, ...rest }) => [name, rest])));
  mkdirSync('bench/results', { recursive: true });
  writeFileSync(`bench/results/${bench}.json`, `${JSON.stringify({ ...machine, figures }, null, 2)}\n`);
}

/** The value below which a share of the numbers lies; sorts in place. */
export function percentile(numbers: number[], share: number): number {
  numbers.sort((a, b) => a - b);
  return numbers[Math.min(numbers.length - 1, Math.floor(numbers.length * share))] ?? NaN;
}
