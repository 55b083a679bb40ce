import { beforeEach, expect, it, vi } from 'vitest';
import { crew, member, swell } from '../core/engine/ensemble/testCrew';
import { Engine } from '../core/engine/engine';
import type { EventNow, EngineEvent } from '../core/engine/event';
import { SongTime } from './songTime';

let nowMs = 0;
vi.mock('./time', () => ({ hubTimeMs: () => nowMs }));

function song() {
  const engine = new Engine(crew(member(swell)), { midi: () => undefined, osc: () => undefined });
  engine.take({ kind: 'start', timeMs: 0 });
  const time = new SongTime(() => engine, (event: EventNow) => engine.take({ ...event, timeMs: nowMs } as EngineEvent));
  return { engine, time };
}

beforeEach(() => {
  nowMs = 0;
});

it('the first clock leads as long as it is heard; another one is named, and leads once the first is gone', () => {
  const { time } = song();
  const [keys, pads] = [{}, {}];
  expect(time.leads(keys, 'Keys')).toBe(true);
  time.clock(0, 100, 0);
  nowMs = 300;
  expect(time.leads(pads, 'Pads')).toBe(false);
  expect(time.state).toMatchObject({ bpm: 100, from: 'clock', clock: { name: 'Keys', lost: false, second: 'Pads' } });
  nowMs = 900;
  expect(time.state!.clock).toMatchObject({ lost: true });
  nowMs = 2500;
  expect(time.leads(pads, 'Pads')).toBe(true);
  expect(time.state!.clock).toMatchObject({ name: 'Pads', second: null });
});
it('one that stops without a word is missed by nobody: the piece goes on at its tempo', () => {
  const { engine, time } = song();
  time.leads({}, 'Keys');
  time.starts();
  for (let i = 0; i <= 48; i++) {
    nowMs = (i * 600) / 24;
    time.clock(nowMs, 100, i / 24);
  }
  nowMs = 1200 + 6000;
  expect(time.state).toMatchObject({ running: true, bpm: 100, clock: { lost: true } });
  expect(engine.positionAt(nowMs)).toBeCloseTo(12, 6);
});
it('a clock that is heard late stands where it stood when it was sent', () => {
  const { engine, time } = song();
  time.leads({}, 'Keys');
  time.starts();
  nowMs = 530;
  time.clock(500, 120, 1);
  expect(engine.positionAt(530)).toBeCloseTo(1.06, 9);
});
it('a device that goes leaves the tempo of the rig; one that never led leaves nothing', () => {
  const { time } = song();
  const keys = {};
  time.leads(keys, 'Keys');
  time.clock(0, 90, NaN);
  time.leaves({});
  expect(time.state!.bpm).toBe(90);
  time.leaves(keys);
  expect(time.state).toMatchObject({ bpm: 120, from: 'rig', clock: null });
});
it('a device that goes while the piece runs leaves its tempo, so that nothing jumps', () => {
  const { engine, time } = song();
  const keys = {};
  time.leads(keys, 'Keys');
  time.starts();
  time.clock(0, 96, 0);
  time.leaves(keys, true);
  expect(time.state).toMatchObject({ running: true, bpm: 96, from: 'tapped', clock: null });
  engine.take({ kind: 'rig', timeMs: 0, rig: { ...engine.plan.rig, tempoBpm: 130 } });
  expect(time.state).toMatchObject({ bpm: 130, from: 'rig' });
});
it('says how it stands when that does not follow from what was said before', () => {
  const { time } = song();
  expect(time.news()).not.toBeNull();
  expect(time.news()).toBeNull();
  time.does({ does: 'start' });
  expect(time.news()).toMatchObject({ running: true });
  nowMs = 5000;
  expect(time.news()).toBeNull();
  time.does({ does: 'tempo', bpm: 90 });
  expect(time.news()).toMatchObject({ bpm: 90, from: 'tapped' });
  time.does({ does: 'goTo', beat: 40 });
  expect(time.news()).toMatchObject({ beat: 40 });
  time.does({ does: 'stop' });
  expect(time.news()).toMatchObject({ running: false });
  nowMs = 50_000;
  expect(time.news()).toBeNull();
});
it('a take that is played says the tempo, and gives it back to the clock', () => {
  const { time } = song();
  time.leads({}, 'Keys');
  time.clock(0, 100, NaN);
  time.ofTakes(66);
  expect(time.state).toMatchObject({ bpm: 66, from: 'take' });
  time.ofTakes(null);
  expect(time.state).toMatchObject({ bpm: 100, from: 'clock' });
});
