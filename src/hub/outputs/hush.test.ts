import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { KEEP } from '../../core/midi/keep';
import { hexOf } from '../../core/midi/describe';
import { Audience } from '../audience';
import { DelayedPort } from './delayedPort';
import { OutputDesk } from './desk';
import type { OutputSink } from './sink';
import { SlowPort } from './slowPort';
import { memoryStore, SoundingBook } from './soundingBook';

const clock = vi.hoisted(() => ({ nowMs: 1000 }));
vi.mock('../time', () => ({ hubTimeMs: () => clock.nowMs }));

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

function pass(ms: number) {
  for (let i = 0; i < ms; i++) {
    clock.nowMs++;
    vi.advanceTimersByTime(1);
  }
}

/** A port, and what left by it. */
function port(): { sink: OutputSink; sent: string[] } {
  const sent: string[] = [];
  return { sent, sink: { takes: 'midi', mayComeBack: false, send: ({ bytes }) => void sent.push(hexOf(bytes)), close: () => undefined } };
}

const send = (sink: OutputSink, ...bytes: number[]) => sink.send({ output: 'o', kind: 'midi', bytes: Uint8Array.from(bytes), atMs: clock.nowMs, address: KEEP, by: 0 });

it('a slow port with seconds of notes before it is silent at Panic: what has begun ends, nothing begins', () => {
  const { sink, sent } = port();
  const slow = new SlowPort(sink, 3125);
  for (let note = 0; note < 100; note++) send(slow, 0x90, note, 100);
  for (let note = 0; note < 100; note++) send(slow, 0x80, note, 64);
  pass(5);
  const begun = sent.length;
  slow.hush();
  pass(100);
  // 0.96 ms for three bytes on DIN.
  expect(begun).toBeLessThan(8);
  expect(sent.slice(begun)).toEqual(sent.slice(0, begun).map((on) => on.replace('90', '80').replace('64', '40')));
});

it('so is one that is late on purpose, with a slow one behind it', () => {
  const { sink, sent } = port();
  const late = new DelayedPort(new SlowPort(sink, 3125), 200);
  send(late, 0x90, 60, 100);
  pass(210);
  expect(sent).toEqual(['90 3C 64']);
  send(late, 0x90, 62, 100);
  send(late, 0x80, 62, 64);
  send(late, 0x80, 60, 64);
  send(late, 0xb0, 7, 1);
  late.hush();
  pass(300);
  expect(sent).toEqual(['90 3C 64', '80 3C 40', 'B0 07 01']);
});

it('Panic says so to every output before it ends what sounds', () => {
  const { sink, sent } = port();
  const desk = new OutputDesk(new SoundingBook(memoryStore()), new Audience(), (mapping) => mapping, () => new SlowPort(sink, 3125));
  desk.open([{ id: 'o', name: 'o', kind: 'standIn', receiver: 'r' }]);
  for (let i = 0; i < 300; i++) {
    desk.midi('o', 0, Uint8Array.of(0x90, i % 128, 100), 3, KEEP);
    if (i % 2 === 0) desk.midi('o', 0, Uint8Array.of(0x80, i % 128, 64), 3, KEEP);
  }
  pass(10);
  const begun = sent.length;
  desk.panic(() => undefined);
  pass(500);
  expect(sent.slice(begun).filter((bytes) => bytes.startsWith('9'))).toEqual([]);
  const sounds = new Set<string>();
  for (const bytes of sent) {
    if (bytes.startsWith('9')) sounds.add(bytes.slice(3, 5));
    else sounds.delete(bytes.slice(3, 5));
  }
  expect([...sounds]).toEqual([]);
});
