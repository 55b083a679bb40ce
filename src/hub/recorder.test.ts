import { beforeEach, expect, it } from 'vitest';
import { Engine } from '../core/engine/engine';
import { cc } from '../core/engine/testScript';
import { testRig } from '../core/engine/testRig';
import { LogReader } from '../core/takes/log';
import { beginningOf, bytesOf, type TakeRecord } from '../protocol/takes';
import { Recorder } from './recorder';

let nowMs: number;
let sent: TakeRecord[];
let changes: number;
let recorder: Recorder;
let engine: Engine;

beforeEach(() => {
  [nowMs, sent, changes] = [100_000, [], 0];
  recorder = new Recorder(() => 'r', (record) => void sent.push(record), () => void changes++, () => nowMs);
  engine = new Engine(testRig([{ message: cc(20) }]), { midi: () => undefined, osc: () => undefined });
});

function play(value: number, afterMs = 10): void {
  nowMs += afterMs;
  const event = { kind: 'sample' as const, signal: 0, value, timeMs: nowMs };
  recorder.hear(event, engine);
  engine.take(event);
}

/** The values that stand in the pieces that were handed over, and when, counted from the beginning of the take. */
function logged(records: readonly TakeRecord[]): [atMs: number, value: number][] {
  const begins = records.find((record) => record.kind === 'begins') as TakeRecord & { kind: 'begins' };
  const reader = new LogReader(beginningOf(begins).rig);
  const values: [number, number][] = [];
  const nothing = () => undefined;
  for (const record of records) if (record.kind === 'piece') reader.read(bytesOf(record.bytes), { sample: (timeMs, _, value) => void values.push([timeMs - begins.startMs, value]), names: nothing, tick: nothing, voice: nothing, rig: nothing, other: nothing });
  return values;
}

it('hands over what happens from the beginning on, numbered without a gap, and again until it is written down', () => {
  play(0.1);
  expect(recorder.begin()).toBe(true);
  expect(recorder.begin()).toBe(false);
  play(0.25);
  recorder.flush();
  play(0.5);
  recorder.mark();
  recorder.end();
  expect(sent.map(({ kind }) => kind)).toEqual(['begins', 'piece', 'mark', 'piece', 'ends']);
  expect(sent.map(({ number }) => number)).toEqual([0, 1, 2, 3, 4]);
  expect(logged(sent)).toEqual([[10, 0.25], [20, 0.5]]);
  expect(sent.at(-1)).toMatchObject({ kind: 'ends', lastMs: nowMs });
  // The engine stood at 0.1 when it began.
  expect(beginningOf(sent[0] as TakeRecord & { kind: 'begins' }).state).not.toBeNull();
  const take = sent[0]!.take;
  sent.length = 0;
  recorder.sendWaiting();
  expect(sent.map(({ number }) => number)).toEqual([0, 1, 2, 3, 4]);
  recorder.stored(take, 2, null);
  sent.length = 0;
  recorder.sendWaiting();
  expect(sent.map(({ number }) => number)).toEqual([3, 4]);
  recorder.stored(take, 4, null);
  expect(recorder.state.waiting).toBe(0);
});
it('keeps at least the last half minute, and not much more, however long nobody asks', () => {
  expect(recorder.keepLast()).toBe(false);
  for (let i = 0; i < 2000; i++) play((i % 100) / 100, 100);
  expect(recorder.keepLast()).toBe(true);
  const values = logged(sent);
  const lengthMs = values.at(-1)![0] - values[0]![0];
  expect(lengthMs).toBeGreaterThanOrEqual(29_900);
  expect(lengthMs).toBeLessThan(36_000);
  expect(sent.at(-1)!.kind).toBe('ends');
  expect(recorder.state.take).toBeNull();
  // What is long ago is nothing of the last half minute.
  nowMs += 60_000;
  expect(recorder.keepLast()).toBe(false);
});
it('what cannot be written down is said, kept and tried again every second; a warning is said too', () => {
  play(0.1);
  recorder.begin();
  const take = recorder.state.take!;
  play(0.2);
  recorder.flush();
  recorder.refused('The disk is full.');
  expect(recorder.state.problem).toBe('The disk is full.');
  sent.length = 0;
  recorder.flush();
  expect(sent).toEqual([]);
  nowMs += 1001;
  recorder.flush();
  // One record asks; the rest follows once it is taken.
  expect(sent.map(({ number }) => number)).toEqual([0]);
  recorder.stored(take, 0, null);
  expect(sent.map(({ number }) => number)).toEqual([0, 1]);
  expect(recorder.state.problem).toBe('The disk is full.');
  recorder.stored(take, 1, 'The disk has only 300 MB left.');
  expect(recorder.state.problem).toBe('The disk has only 300 MB left.');
  recorder.stored(take, 1, null);
  expect(recorder.state).toMatchObject({ problem: null, waiting: 0, events: 1 });
});
it('ends by itself, and says so, before what waits fills the memory', () => {
  play(0.1);
  recorder.begin();
  for (let i = 0; i < 40; i++) {
    // A message of thirty thousand bytes, over and over, that nobody writes down.
    for (let n = 0; n < 20; n++) recorder.hear({ kind: 'send', output: 'weather', bytes: new Uint8Array(30_000).fill(120), timeMs: ++nowMs }, engine);
    recorder.flush();
  }
  expect(recorder.state.take).toBeNull();
  expect(recorder.state.problem).toMatch(/^Recording has ended: \d+ MB could not be written down/);
  expect(recorder.state.waiting).toBeLessThan(80 * 1024 * 1024);
});
it('what was refused of one take is not lost by another that is written down after it', () => {
  play(0.1);
  recorder.begin();
  const first = recorder.state.take!;
  play(0.2);
  recorder.end();
  recorder.refused('The disk is full.');
  sent.length = 0;
  recorder.begin();
  const second = recorder.state.take!;
  expect(sent).toEqual([]);
  // Even where the later one was stored, the earlier one still waits.
  recorder.stored(second, 0, null);
  sent.length = 0;
  recorder.sendWaiting();
  expect(sent.filter(({ take }) => take === first).map(({ number }) => number)).toEqual([0, 1, 2]);
  expect(recorder.state.problem).toBe('The disk is full.');
});
