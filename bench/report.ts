import { mkdirSync, writeFileSync } from 'node:fs';
import { cpus, loadavg } from 'node:os';

/** One measured number beside the floor of the same run. */
export interface Figure {
  name: string;
  value: number;
  unit: string;
  floor: number | null;
  ratio: number | null;
  aim: string;
  better: 'lower' | 'higher';
}

export function figure(name: string, value: number, unit: string, floor: number | null, aim: string, better: Figure['better']): Figure {
  const round = (x: number) => Number(x.toPrecision(4));
  return { name, value: round(value), unit, floor: floor === null ? null : round(floor), ratio: floor ? round(value / floor) : null, aim, better };
}

/** Prints the figures as a table and writes them, with the date, the processor and the load, to bench/results. */
export function report(bench: string, figures: Figure[]): void {
  const machine = { date: new Date().toISOString(), processor: cpus()[0]!.model, cores: cpus().length, load: loadavg().map((load) => Number(load.toFixed(2))), node: process.version };
  console.log(`\n${bench}, ${machine.date}, ${machine.cores} x ${machine.processor}, load ${machine.load.join(' ')}`);
  console.table(Object.fromEntries(figures.map(({ name, ...rest }) => [name, rest])));
  mkdirSync('bench/results', { recursive: true });
  writeFileSync(`bench/results/${bench}.json`, `${JSON.stringify({ ...machine, figures }, null, 2)}\n`);
}

/** The value below which a share of the numbers lies; sorts in place. */
export function percentile(numbers: number[], share: number): number {
  numbers.sort((a, b) => a - b);
  return numbers[Math.min(numbers.length - 1, Math.floor(numbers.length * share))] ?? NaN;
}
