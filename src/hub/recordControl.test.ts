import { expect, it } from 'vitest';
import { Engine } from '../core/engine/engine';
import { testRig } from '../core/engine/testRig';
import { DEFAULT_RECORD_SETTINGS, type RecordSettings } from '../protocol/recordSettings';
import { RecordControl, type RecordWorld } from './recordControl';

function control(settings: Partial<RecordSettings> = {}, song: Partial<ReturnType<RecordWorld['song']>> = {}) {
  const said: string[] = [];
  const state = { take: null as string | null, sinceHubMs: 0, beatsFromHubMs: 0, events: 0, bytes: 0, marks: 0, waiting: 0, problem: null, counting: null };
  const does = (words: string, take: string | null) => (countedToMs?: number) => {
    if ((state.take === null) === (take === null)) return false;
    said.push(countedToMs === undefined ? words : `${words} counted to ${countedToMs}`);
    state.take = take;
    return true;
  };
  let due: { ms: number; work: () => void } | null = null;
  const made = new RecordControl(
    { begin: does('begin', 't'), end: does('end', null), keepLast: () => said.push('keep') > 0, mark: () => said.push('mark') > 0, state },
    { song: () => ({ running: false, bpm: 120, beat: 0, barBeats: 4, ...song }), after: (ms, work) => ((due = { ms, work }), () => (due = null)), changed: () => void said.push('changed'), nowMs: () => 1000 },
  );
  made.set({ ...DEFAULT_RECORD_SETTINGS, ...settings });
  return { control: made, said, waits: () => due?.ms ?? null, elapse: () => due?.work() };
}

it('counts bars in at the tempo, or seconds; ending while it counts is no take', () => {
  const { control: one, said, waits, elapse } = control({ countIn: { of: 'bars', many: 2 } }, { barBeats: 3, beat: 1.5 });
  expect(one.does('begin')).toBe(true);
  expect([waits(), one.state.counting]).toEqual([3000, { sinceHubMs: 1000, untilHubMs: 4000 }]);
  expect(one.does('begin')).toBe(false);
  one.does('end');
  expect([waits(), one.state.counting, said]).toEqual([null, null, ['changed', 'changed']]);
  one.does('begin');
  elapse();
  expect(said.at(-1)).toBe('begin counted to 4000');
  expect(control({ countIn: { of: 'seconds', many: 1.5 } }).control.does('begin')).toBe(true);
});
it('counts whole bars of a transport that runs: at 120 in 4/4, from 1.5 beats into a bar, 1.25 s to the next and two seconds more', () => {
  const counted = (beat: number, many = 1) => {
    const { control: one, waits } = control({ countIn: { of: 'bars', many } }, { running: true, beat });
    one.does('begin');
    return waits();
  };
  expect([counted(1.5), counted(4), counted(-1), counted(1.5, 2)]).toEqual([3250, 2000, 2500, 5250]);
  const { control: none, said } = control({ countIn: { of: 'bars', many: 0 } }, { running: true, beat: 1.5 });
  none.does('begin');
  expect(said).toEqual(['begin']);
});
it('a gate begins and ends with each press, whatever comes between; a scene does, the transport follows', () => {
  const rig = testRig([]);
  const engine = new Engine(rig, { midi: () => undefined, osc: () => undefined });
  const { control: one, said } = control({ gate: 'bell', scene: 's', transport: true });
  const bell = engine.plan.signalIndex.get('bell')!;
  const presses = (...values: number[]) => values.forEach((value) => one.hear({ kind: 'sample', signal: bell, value, timeMs: 0 }, engine));
  presses(1, 0.5, 0);
  // Held while its line was lost: no press, and no second one follows without a lift.
  presses(1, 0);
  one.hear({ kind: 'heldOn', signal: bell, value: 1, timeMs: 0 }, engine);
  presses(1, 0);
  expect(said).toEqual(['begin', 'end']);
  one.hear({ kind: 'sample', signal: 0, value: 1, timeMs: 0 }, engine);
  one.recalled('s');
  one.recalled('other');
  one.transport('stop');
  one.transport('start');
  one.transport('start');
  expect(one.does('next')).toBe(true);
  expect(said).toEqual(['begin', 'end', 'begin', 'end', 'begin', 'end', 'begin']);
});
it('what begins at once ends the count; punching leaves a take alone that was recorded before', () => {
  const { control: one, said, waits } = control({ transport: true, countIn: { of: 'bars', many: 1 } });
  one.does('begin');
  one.transport('start');
  expect([waits(), one.state.counting]).toEqual([null, null]);
  one.punch(true);
  one.punch(false);
  expect(one.state.take).toBe('t');
  one.does('end');
  one.punch(true);
  one.punch(false);
  expect(said.filter((words) => words !== 'changed')).toEqual(['begin', 'end', 'begin', 'end']);
});
