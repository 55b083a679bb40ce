import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { testRig } from '../../core/engine/testRig';
import type { Found, SourceReport } from '../../core/inputs/feed';
import { gamepadSources } from '../../core/inputs/gamepadSources';
import type { RigDocument } from '../../core/rig/document';
import { LIMITS } from '../../protocol/limits';
import type { Player } from '../player';
import { Intake } from './intake';
import { ClientFeeds } from './clientFeeds';
import type { RigInput } from '../../core/inputs/kinds';

const clock = vi.hoisted(() => ({ nowMs: 10_000 }));
vi.mock('../time', () => ({ hubTimeMs: () => clock.nowMs }));

const level: SourceReport = { key: '/rope/level 0', name: 'Level', kind: 'continuous', unit: 'unit', range: [0, 1], osc: { address: '/rope/level', argument: 0 } };
const button: SourceReport = { key: 'button 0', name: 'Button', kind: 'gate', unit: 'unit', range: [0, 1] };

function setUp(inputs: RigInput[], signals: Partial<RigDocument['signals'][0]>[]) {
  const rig = { ...testRig([]), inputs, signals: signals.map((signal, i) => ({ id: `s${i}`, name: `S${i}`, input: 'in', kind: 'continuous', unit: 'unit', range: [0, 1], ...signal })) } as RigDocument;
  const played: [string, number][] = [];
  const ids = rig.signals.map(({ id }) => id);
  const player = { rig, signals: { find: (id: string) => (ids.includes(id) ? ids.indexOf(id) : undefined), idOf: (number: number) => ids[number] }, incoming: { sample: (number: number, _timeMs: number, value: number) => played.push([ids[number]!, value]) } };
  const told: Found[][] = [];
  const intake = new Intake(player as unknown as Player, (found) => told.push(found));
  intake.rigChanged();
  const osc = (connection: string) => intake.connect({ kind: 'osc', report: 'here /rope', name: 'Rope' }, { connection, where: connection });
  const say = (feed: ReturnType<typeof osc>, value: number, source = level) => intake.value(intake.source(feed, source), clock.nowMs, value);
  return { intake, player: player as unknown as Player, played, told, osc, say };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const roped = (slot: number): RigInput => ({ id: slot === 1 ? 'in' : `in${slot}`, name: 'Rope', kind: 'osc', device: { report: 'here /rope', slot } });
const ropeSignal = { osc: { address: '/rope/level', argument: 0 } };

describe('Intake', () => {
  it('tells once of what it does not know, and again only after a while', () => {
    const { told, osc, say } = setUp([], []);
    const rope = osc('a');
    for (let i = 0; i < 100; i++) say(rope, i / 100);
    vi.advanceTimersByTime(300);
    expect(told.map((found) => found.map(({ feed, sources }) => [feed.report, feed.slot, sources.length]))).toEqual([[['here /rope', 1, 1]]]);
    clock.nowMs += 1000;
    say(rope, 0.5);
    vi.advanceTimersByTime(300);
    expect(told).toHaveLength(1);
    clock.nowMs += 3000;
    say(rope, 0.5);
    vi.advanceTimersByTime(300);
    expect(told).toHaveLength(2);
  });
  it('tells nothing before there is a rig that could know it, and plays it once there is', () => {
    const { intake, player, played, told, osc, say } = setUp([{ id: 'in', name: 'Rope', kind: 'osc' }], [ropeSignal]);
    const { rig } = player;
    player.rig = null;
    intake.rigChanged();
    const rope = osc('a');
    say(rope, 0.25);
    vi.advanceTimersByTime(300);
    player.rig = rig;
    intake.rigChanged();
    say(rope, 0.5);
    vi.advanceTimersByTime(300);
    expect([told, played]).toEqual([[], [['s0', 0.25], ['s0', 0.5]]]);
  });
  it('tells nothing while it does not listen', () => {
    const { intake, told, osc, say } = setUp([], []);
    intake.listening = false;
    say(osc('a'), 1);
    vi.advanceTimersByTime(1000);
    expect(told).toEqual([]);
    expect(intake.state()[0]!.unknown).toBe(1);
  });
  it('a sender that moves to another socket keeps its place; two that both speak are two', () => {
    const { intake, played, osc, say } = setUp([roped(1), roped(2)], [ropeSignal, { ...ropeSignal, input: 'in2' }]);
    const first = osc('a');
    say(first, 0.1);
    const second = osc('b');
    say(second, 0.2);
    expect(intake.state()).toHaveLength(1);
    say(first, 0.3);
    say(second, 0.4);
    expect(played).toEqual([['s0', 0.1], ['s0', 0.2], ['s0', 0.3], ['s1', 0.4]]);
    expect(intake.state().map(({ report, slot, input }) => [report, slot, input])).toEqual([['here /rope', 1, 'in'], ['here /rope', 2, 'in2']]);
  });
  it('says live, silent and gone', () => {
    const { intake, osc, say } = setUp([roped(1)], [ropeSignal]);
    const rope = osc('a');
    say(rope, 1);
    const state = () => intake.state()[0]!.state;
    expect(state()).toBe('live');
    clock.nowMs += 2500;
    expect(state()).toBe('silent');
    intake.disconnect(rope);
    expect(state()).toBe('gone');
  });
  it('lets go of the gates of a feed that leaves, and of nothing else', () => {
    const { intake, played } = setUp([{ id: 'in', name: 'Pad', kind: 'gamepad', device: { report: 'pad', slot: 1 } }], [{ kind: 'gate', source: 'button 0' }, { source: 'axis 0' }]);
    const pad = intake.connect({ kind: 'gamepad', report: 'pad', name: 'Pad' }, { connection: 'page', where: 'a page' });
    intake.value(intake.source(pad, button), clock.nowMs, 1);
    intake.value(intake.source(pad, { ...level, key: 'axis 0', osc: undefined } as unknown as SourceReport), clock.nowMs, 0.7);
    intake.disconnect(pad);
    expect(played).toEqual([['s0', 1], ['s1', 0.7], ['s0', 0]]);
  });
  it('a second pad alike takes the next place; the first that comes back takes its own again', () => {
    const { intake } = setUp([], []);
    const plug = (connection: string) => intake.connect({ kind: 'gamepad', report: 'pad', name: 'Pad' }, { connection, where: 'a page' });
    const one = plug('0');
    const two = plug('1');
    expect([one.report.slot, two.report.slot]).toEqual([1, 2]);
    intake.disconnect(one);
    expect(plug('2').report.slot).toBe(1);
    expect(two.report.slot).toBe(2);
  });
  it('remembers only so many senders, however many sockets a script opens', () => {
    const { intake, osc, say } = setUp([roped(1)], [ropeSignal]);
    for (let i = 0; i < 3 * LIMITS.feeds; i++) {
      clock.nowMs += 1;
      say(osc(`socket ${i}`), 0.5);
    }
    for (let i = 0; i < 3 * LIMITS.feeds; i++) {
      clock.nowMs += 1;
      intake.value(intake.source(intake.connect({ kind: 'osc', report: `here /${i}`, name: 'X' }, { connection: 'a', where: 'a' }), { ...level, key: `/${i} 0` }), clock.nowMs, 1);
    }
    expect(intake.state().length).toBeLessThanOrEqual(LIMITS.feeds);
  });
  it('a sender whose place was given away while it was silent comes back as a second one, not as a ghost in the first', () => {
    const { intake, played, osc, say } = setUp([roped(1), roped(2)], [ropeSignal, { ...ropeSignal, input: 'in2' }]);
    const first = osc('a');
    say(first, 0.1);
    clock.nowMs += 3000;
    const second = osc('b');
    say(second, 0.2);
    expect(first.gone).toBe(true);
    const back = osc('a');
    say(back, 0.3);
    say(second, 0.4);
    say(back, 0.5);
    expect(played.map(([id]) => id)).toEqual(['s0', 's0', 's0', 's0', 's1']);
    expect(intake.state()).toHaveLength(2);
  });
});

describe('a gamepad that goes with a stick pushed, a trigger and a button held', () => {
  const pad = { kind: 'gamepad' as const, report: 'pad', name: 'Pad' };
  const held = [['axis 2', 0.8], ['axis 3', 0], ['axis 4', -1], ['button 7', 0.6], ['button 0', 1]] as const;
  /** What its signals heard last, by source. */
  function whatGoes(lost: boolean) {
    const { intake, player, played } = setUp(
      [{ id: 'in', name: 'Pad', kind: 'gamepad', device: { report: 'pad', slot: 1 } }],
      held.map(([source]) => ({ source })),
    );
    Object.assign(player.incoming, { lost: new Set() });
    const feed = intake.connect(pad, { connection: 'page', where: 'page' });
    const sources = new Map(gamepadSources(5, 8).map((report) => [report.key, intake.source(feed, report)]));
    for (const [key, value] of held) intake.value(sources.get(key)!, clock.nowMs, value);
    played.length = 0;
    intake.disconnect(feed, lost);
    return played;
  }
  it('springs back, but for a lever of its own, which stays', () => expect(whatGoes(false)).toEqual([['s0', 0], ['s4', 0], ['s3', 0]]));
  it('lets go of its button alone where only its line was lost: the stick may still be pushed', () => expect(whatGoes(true)).toEqual([['s4', 0]]));
});

describe('the feeds of a page', () => {
  const told = (feed: string, count: number, from = 0) => ({ kind: 'feed' as const, feed: feed, report: { kind: 'gamepad' as const, report: feed, name: feed }, sources: Array.from({ length: count }, (_, i) => ({ ...button, key: `button ${from + i}` })) });
  it('have numbers that are never given again, and nothing is kept of one that went', () => {
    const { intake, player } = setUp([], []);
    const feeds = new ClientFeeds(player, intake);
    for (let i = 0; i < 5; i++) {
      expect(feeds.tell(told('pad', 2))).toEqual({ sources: [2 * i, 2 * i + 1], midi: i, streams: [] });
      feeds.gone('pad');
      expect(feeds.source(2 * i)).toBeUndefined();
    }
  });
  it('have so many sources and no more, at once and one after another', () => {
    const { intake, player } = setUp([], []);
    const feeds = new ClientFeeds(player, intake);
    expect(feeds.tell(told('pad', LIMITS.sourcesPerFeed))).not.toBeNull();
    expect([feeds.tell(told('pad', 1, 500)), feeds.tell(told('pad', 1))?.sources]).toEqual([null, [0]]);
    feeds.gone('pad');
    let brought = 1;
    while (brought < 1000 && feeds.tell(told('pad', LIMITS.sourcesPerFeed))) {
      feeds.gone('pad');
      brought++;
    }
    // What a frame can name: 65,535 sources.
    expect(brought).toBe(Math.floor(65_535 / LIMITS.sourcesPerFeed));
  });
});

it('two pads that are exchanged while one is held: what it held is let go of, and what both stand at is heard anew', () => {
  const pads = (first: number): RigInput[] => [1, 2].map((n) => ({ id: `in${n}`, name: `Pad ${n}`, kind: 'gamepad', device: { report: 'pad', slot: n === 1 ? first : 3 - first } }));
  const { intake, player, played } = setUp(
    pads(1),
    ['in1', 'in2'].flatMap((input) => [
      { input, source: 'axis 2' },
      { input, source: 'button 0', kind: 'gate' as const },
    ]),
  );
  const connect = (connection: string, stick: number, button: number) => {
    const feed = intake.connect({ kind: 'gamepad', report: 'pad', name: 'Pad' }, { connection, where: connection });
    const sources = new Map(gamepadSources(5, 8).map((report) => [report.key, intake.source(feed, report)]));
    const say = (key: string, value: number) => intake.value(sources.get(key)!, clock.nowMs, value);
    say('axis 2', stick);
    say('button 0', button);
    return say;
  };
  const first = connect('a', 0.8, 1);
  connect('b', 0.25, 0);
  played.length = 0;
  player.rig = { ...player.rig!, inputs: pads(2) };
  intake.rigChanged();
  // Signals: the stick and the button of each. The held button is no press of the other.
  const heard = Object.fromEntries(played);
  expect(heard).toEqual({ s0: 0.25, s1: 0, s2: 0.8 });
  first('button 0', 0);
  expect(played.at(-1)).toEqual(['s3', 0]);
});
