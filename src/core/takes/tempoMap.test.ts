import { expect, it } from 'vitest';
import { Engine } from '../engine/engine';
import type { EngineEvent } from '../engine/event';
import { testRig } from '../engine/testRig';
import { LogWriter } from './log';
import { tempoMap } from './tempoMap';

it('is that of the rig, of what was tapped, of a clock that was followed, and of the rig again', () => {
  const rig = testRig([]);
  const engine = new Engine(rig, { midi: () => undefined, osc: () => undefined });
  const writer = new LogWriter();
  const take = (event: EngineEvent) => {
    writer.write(event, engine.plan);
    engine.take(event);
  };
  const state = engine.state;
  take({ kind: 'tapped', timeMs: 1500, bpm: 90 });
  for (let i = 0; i < 5; i++) take({ kind: 'tempo', timeMs: 2000 + i * 25, bpm: 100 + i * 0.01, beat: i / 24 });
  take({ kind: 'tempo', timeMs: 4000, bpm: null });
  take({ kind: 'rig', timeMs: 5000, rig: { ...rig, name: 'Same' } });
  take({ kind: 'rig', timeMs: 6000, rig: { ...rig, tempoBpm: 140 } });
  expect(tempoMap({ rig, startMs: 1000, state }, [writer.take()!.bytes])).toEqual([
    { atMs: 0, bpm: 120 },
    { atMs: 500, bpm: 90 },
    { atMs: 1000, bpm: 100 },
    { atMs: 3000, bpm: 90 },
    { atMs: 5000, bpm: 140 },
  ]);
  expect(tempoMap({ rig, startMs: 1000, state: engine.state }, [])).toEqual([{ atMs: 0, bpm: 120 }]);
});
