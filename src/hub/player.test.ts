import fc from 'fast-check';
import { expect, it, vi } from 'vitest';
import { Engine } from '../core/engine/engine';
import { whoOf } from '../core/engine/sink';
import { testRig } from '../core/engine/testRig';
import { hexOf } from '../core/midi/describe';
import type { RigDocument } from '../core/rig/document';
import { TakeRenderer } from '../core/takes/render';
import type { Standing } from '../protocol/live';
import { beginningOf, bytesOf, type TakeRecord } from '../protocol/takes';
import { memoryStore, SoundingBook } from './outputs/soundingBook';
import { Player } from './player';
import { Recorder } from './recorder';

const clock = vi.hoisted(() => ({ nowMs: 10_000 }));
vi.mock('./time', () => ({ hubTimeMs: () => clock.nowMs, calendarMs: () => clock.nowMs }));
vi.mock('../net/systemMs', () => ({ systemMs: () => clock.nowMs }));

/** A rig with something smoothed, struck again, held and merged; `low` is one of two forms of it, as edits leave it. */
function rigOf(low: boolean): RigDocument {
  const rig = testRig([
    { shaping: { smoothing: { kind: 'onePole', timeConstantMs: 40 } } },
    { signal: 'bell', message: { kind: 'note', channel: 10, note: low ? 48 : 60, velocity: 100, repeat: { beats: 0.25 } } },
    ...(low ? [] : [{ signal: 'fog.touch', message: { kind: 'note' as const, channel: 2, note: 62, velocity: 90 }, gate: { press: 'toggle' as const } }]),
  ]);
  rig.scenes = [
    { id: 's', name: 'S', mappings: { m0: low }, pages: {}, values: { fog: 0.9 }, messages: [{ output: 'weather', bytes: [0x93, 50, 80] }], glideMs: 60 },
    { id: 'tap', name: 'Tap', mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0, transport: 'tap', recalledBy: { signal: 'bell' } },
  ];
  return rig;
}

const step = fc.oneof(
  { weight: 6, arbitrary: fc.record({ do: fc.constant('sample' as const), signal: fc.constantFrom('fog', 'fog.touch', 'bell'), value: fc.constantFrom(0, 0.3, 0.7, 1) }) },
  { weight: 6, arbitrary: fc.constant({ do: 'tick' as const }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('load' as const), ofAnother: fc.boolean(), low: fc.boolean(), values: fc.constantFrom<Record<string, number>[]>({}, { fog: 0.4 }) }) },
  { weight: 1, arbitrary: fc.constantFrom({ do: 'recall' as const }, { do: 'panic' as const }, { do: 'thru' as const }, { do: 'endThru' as const }, { do: 'introduce' as const }, { do: 'endIntroduction' as const }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('tempo' as const), bpm: fc.constantFrom(null, 95.5) }) },
);

it('what the hub gives its engine, recorded from anywhere on, replays to the same bytes', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(step, fc.integer({ min: 0, max: 25 })), { minLength: 1, maxLength: 50 }), fc.nat(), (steps, at) => {
      clock.nowMs = 10_000;
      const player = new Player(new SoundingBook(memoryStore()));
      const records: TakeRecord[] = [];
      const recorder = new Recorder(() => 'test', (record) => void records.push(JSON.parse(JSON.stringify(record)) as TakeRecord), () => undefined, () => clock.nowMs);
      const sent: string[] = [];
      player.door.journal = recorder;
      vi.spyOn(player.leaving, 'midi').mockImplementation((output, by, bytes, length) => void sent.push(`${output} ${whoOf(by)} ${by >= 0 ? `m${by}` : null} ${hexOf(bytes.slice(0, length))}`));
      player.load(rigOf(true), 1, false, { fog: 0.2 });
      steps.forEach(([what, afterMs], i) => {
        clock.nowMs += afterMs;
        if (i === at % steps.length) {
          expect(recorder.begin()).toBe(true);
          sent.length = 0;
        }
        if (what.do === 'sample') player.incoming.sample(player.signals.find(what.signal)!, clock.nowMs, what.value, null);
        else if (what.do === 'tick') player.tick();
        else if (what.do === 'load') {
          if (what.ofAnother) player.opens(`rig ${i}`);
          player.load(rigOf(what.low), 2, false, what.values);
        }
        else if (what.do === 'recall') player.recall('s');
        else if (what.do === 'panic') player.panic();
        else if (what.do === 'thru') player.pass('keys', 'weather', Uint8Array.of(0x90, 40, 70));
        else if (what.do === 'endThru') player.endThru('keys');
        else if (what.do === 'introduce') player.introduce('m0', 'sweep');
        else if (what.do === 'endIntroduction') player.endIntroduction();
        else player.song.ofTakes(what.bpm);
        if (i % 5 === 0) recorder.flush();
      });
      player.stop();
      recorder.end();

      const again: string[] = [];
      const [begins, ...rest] = records;
      const { plan } = new Engine(rigOf(true), { midi: () => undefined, osc: () => undefined });
      const renderer = new TakeRenderer(beginningOf(begins as TakeRecord & { kind: 'begins' }), {
        midi: (_, { output, who, mapping }, bytes, length) => void again.push(`${plan.outputIds.indexOf(output)} ${who} ${mapping} ${hexOf(bytes.slice(0, length))}`),
        osc: () => undefined,
      });
      for (const record of rest) if (record.kind === 'piece') renderer.piece(bytesOf(record.bytes));
      expect(again).toEqual(sent);
    }),
    { numRuns: 300 },
  );
});

it('shows what sensors moved once, with all that came at about the same time, and what a finger moved at once', async () => {
  const player = new Player(new SoundingBook(memoryStore()));
  player.load(rigOf(true), 1, false, {});
  const moved: number[] = [];
  const finger = { signalChanged: (number: number) => void moved.push(number), mappingChanged: () => undefined, receiverHeard: () => undefined, monitor: false, captures: false } as never;
  player.audience.add(finger);
  const fog = player.signals.find('fog')!;
  for (const value of [0.1, 0.2, 0.3]) player.incoming.sample(fog, clock.nowMs, value, null);
  expect(moved).toEqual([]);
  await vi.waitFor(() => expect(moved).toEqual([fog]), { timeout: 25_000 });
  // A finger's own page knows what it sent.
  player.incoming.sample(fog, clock.nowMs, 0.4, finger);
  player.incoming.sample(fog, clock.nowMs, 0.5, {} as never);
  expect(moved).toEqual([fog, fog]);
});

it('asks its clock for ticks at an even rate only once the signal is silent, and until then for one at a time', () => {
  clock.nowMs = 10_000;
  let asked = { evenly: false, dueMs: Infinity };
  const player = new Player(new SoundingBook(memoryStore()), { pending: (evenly, dueMs) => (asked = { evenly, dueMs }) });
  player.load(testRig([{ shaping: { smoothing: { kind: 'onePole', timeConstantMs: 20 } } }]), 1, false, {});
  expect(asked).toEqual({ evenly: false, dueMs: Infinity });
  const fog = player.signals.find('fog')!;
  let evenly = 0;
  for (let i = 0; i < 40; i++) {
    player.incoming.sample(fog, (clock.nowMs += 10), i / 40, null);
    if (asked.evenly || asked.dueMs <= clock.nowMs) player.tick();
    expect(asked.dueMs).toBeGreaterThan(clock.nowMs);
    evenly += Number(asked.evenly);
  }
  expect(evenly).toBe(0);
  // Three of its intervals later it is silent.
  while (!asked.evenly) {
    expect(asked.dueMs - clock.nowMs).toBeLessThanOrEqual(30);
    clock.nowMs = asked.dueMs + 0.01;
    player.tick();
  }
  for (let i = 0; i < 200; i++) {
    clock.nowMs += 4;
    player.tick();
  }
  expect(asked).toEqual({ evenly: false, dueMs: Infinity });
});

it('begins nothing once it has stopped, whatever still comes', () => {
  const store = memoryStore();
  const player = new Player(new SoundingBook(store));
  player.load(testRig([{ signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100 } }]), 1, false, {});
  const bell = player.signals.find('bell')!;
  const press = (value: number) => player.incoming.sample(bell, (clock.nowMs += 10), value, null);
  press(1);
  press(0);
  const before = player.outputs.messagesOut;
  expect(before).toBe(2);
  player.stop();
  press(1);
  player.pass('keys', 'weather', Uint8Array.of(0x90, 61, 1));
  player.load({ ...player.rig!, name: 'Another' }, 2, false, {});
  press(0);
  press(1);
  player.tick();
  expect(player.outputs.messagesOut).toBe(before);
  expect(store.bits.every((bits) => bits === 0)).toBe(true);
});

it('says when the transport starts and stops, whatever does that, and once', () => {
  const player = new Player(new SoundingBook(memoryStore()));
  const rig = testRig([]);
  rig.scenes = [{ id: 'pedal', name: 'Pedal', mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0, transport: 'startStop', recalledBy: { signal: 'bell' } }];
  player.load(rig, 1, false, {});
  const said: string[] = [];
  player.door.onTransport = (kind) => void said.push(kind);
  const press = (value: number) => player.incoming.sample(player.signals.find('bell')!, (clock.nowMs += 10), value, null);
  player.song.does({ does: 'start' });
  player.song.does({ does: 'continue' });
  player.song.does({ does: 'stop' });
  expect(said.splice(0)).toEqual(['start', 'stop']);
  [1, 0, 1, 0].forEach(press);
  expect(said).toEqual(['start', 'stop']);
});

it('says once that other mappings are on, by an edit or by a scene; a rename is none', () => {
  const player = new Player(new SoundingBook(memoryStore()));
  const rig = rigOf(false);
  const edited = (change: Partial<RigDocument['mappings'][number]>): RigDocument => ({ ...rig, mappings: rig.mappings.map((mapping) => (mapping.id === 'm0' ? { ...mapping, ...change } : mapping)) });
  const after = (does: () => unknown) => (does(), [player.shown.switched(), player.shown.switched(), player.shown.mappingStates.sends[0]]);
  expect(after(() => player.load(rig, 1, false, {}))).toEqual([true, false, true]);
  expect(after(() => player.load(edited({ on: false }), 2, false, {}))).toEqual([true, false, false]);
  expect(after(() => player.load(edited({ on: false, name: 'Mist' }), 3, false, {}))).toEqual([false, false, false]);
  expect(after(() => player.load(rig, 4, false, {}))).toEqual([true, false, true]);
  expect(after(() => player.recall('s'))).toEqual([true, false, false]);
});

it('another rig stands as it was left, though all of it is called as in the one before: what sounded has ended, nothing is switched, values are its own', () => {
  const introduced = vi.fn();
  const player = new Player(new SoundingBook(memoryStore()), { introduced });
  const sent: string[] = [];
  vi.spyOn(player.leaving, 'midi').mockImplementation((_output, _by, bytes, length) => void sent.push(hexOf(bytes.slice(0, length))));
  const rig = rigOf(false);
  player.opens('one');
  player.load(rig, 1, false, { fog: 0.9 });
  const move = (signal: string, value: number) => player.incoming.sample(player.signals.find(signal)!, ++clock.nowMs, value, null);
  move('fog.touch', 1);
  move('fog.touch', 0);
  player.recall('s');
  move('fog', 0.75);
  expect([sent.includes('91 3E 5A'), player.shown.mappingStates.sends[0], player.shown.mappingStates.scene]).toEqual([true, false, 's']);
  sent.length = 0;
  player.opens('one');
  player.load(rig, 2, false, { fog: 0.5 });
  expect([sent, player.shown.mappingStates.sends[0], player.shown.signalValue(player.signals.find('fog')!)]).toEqual([[], false, 0.75]);
  player.song.does({ does: 'tempo', bpm: 97 });
  player.introduce('m0', 'sweep', { at: 1, of: 3, words: 'Fog' });
  player.opens('another');
  player.load(structuredClone(rig), 1, false, { fog: 0.5 });
  expect([player.introduction, introduced.mock.calls.length]).toEqual([null, 1]);
  expect(sent.filter((hex) => /^[89]/.test(hex))).toEqual(['83 32 40', '81 3E 40']);
  expect(sent.at(-1)).toBe('B2 15 40');
  expect([player.shown.mappingStates.sends[0], player.shown.signalValue(player.signals.find('fog')!), player.shown.mappingStates.scene, player.shown.mappingStates.heardMsAgo[1], player.standing!.tappedBpm, player.song.state!.bpm]).toEqual([true, 0.5, null, -1, null, rig.tempoBpm]);
});

it('the piece of another rig stands at its beginning, and goes on where a clock that comes in leads both', () => {
  const player = new Player(new SoundingBook(memoryStore()));
  const said: string[] = [];
  player.door.onTransport = (kind) => void said.push(kind);
  const rig = rigOf(false);
  player.opens('one');
  player.load(rig, 1, false, {});
  player.song.does({ does: 'start' });
  clock.nowMs += 1000;
  player.opens('another');
  player.load(structuredClone(rig), 1, false, {});
  expect([player.song.now.running, player.song.now.beat, said]).toEqual([false, 0, ['start', 'stop']]);
  player.song.leads(player, 'keys');
  player.song.clock(clock.nowMs, 120, NaN);
  player.song.does({ does: 'start' });
  clock.nowMs += 1000;
  player.song.clock(clock.nowMs, 120, NaN);
  player.opens('one');
  player.load(rig, 1, false, {});
  expect([player.song.now.running, Math.round(player.song.now.beat)]).toEqual([true, 2]);
  // One that has stopped without a word leads nobody.
  clock.nowMs += 1000;
  player.opens('another');
  player.load(structuredClone(rig), 1, false, {});
  expect([player.song.now.running, player.song.now.beat]).toEqual([false, 0]);
});

it('a take that plays ends with its rig: its notes and its tempo are none of the next one', () => {
  const player = new Player(new SoundingBook(memoryStore()));
  const sent: string[] = [];
  vi.spyOn(player.leaving, 'midi').mockImplementation((_output, _by, bytes, length) => void sent.push(hexOf(bytes.slice(0, length))));
  const rig = rigOf(false);
  player.opens('one');
  player.load(rig, 1, false, {});
  player.takes.begin(1, { take: 't', version: 'v', name: 'Crossing', fromMs: 0, speed: 1, loop: null, punch: null, lengthMs: 9000 }, 77);
  player.takes.more(1, [{ dueMs: 0, output: 'weather', bytes: Uint8Array.of(0x95, 60, 90), ofVoice: false }, { dueMs: 100, output: 'weather', bytes: Uint8Array.of(0x95, 62, 90), ofVoice: false }], 8000, false);
  player.tick();
  expect([sent.includes('95 3C 5A'), player.song.now.bpm]).toEqual([true, 77]);
  player.opens('another');
  player.load(structuredClone(rig), 1, false, {});
  expect(sent).toContain('85 3C 40');
  sent.length = 0;
  clock.nowMs += 200;
  player.tick();
  expect([player.takes.state, sent.filter((hex) => hex.startsWith('9')), player.song.now.bpm]).toEqual([null, [], rig.tempoBpm]);
});

it('a hub that begins again in the middle of a show stands as the one before: what scenes switched, turned and recalled; nothing leaves by it', () => {
  const begun = () => {
    const player = new Player(new SoundingBook(memoryStore()));
    const sent: string[] = [];
    vi.spyOn(player.leaving, 'midi').mockImplementation((_output, _by, bytes, length) => void sent.push(hexOf(bytes.slice(0, length))));
    player.opens('one');
    return { player, sent };
  };
  const rig = rigOf(false);
  rig.mappings[0]!.on = true;
  rig.scenes[0] = { ...rig.scenes[0]!, mappings: { m0: false }, pages: { deck: 'below' } };
  const [first, second] = [begun(), begun()];
  first.player.load(rig, 1, false, { fog: 0.2 });
  first.player.recall('s');
  first.player.song.does({ does: 'tempo', bpm: 97 });
  second.player.load(structuredClone(rig), 1, false, { fog: 0.9 }, JSON.parse(JSON.stringify(first.player.standing)) as Standing);
  expect([first.sent.includes('B2 15 19'), second.sent]).toEqual([true, []]);
  expect(second.player.shown.mappingStates).toMatchObject({ sends: [false, true, true], scene: 's' });
  expect(second.player.standsBy.turned).toEqual(first.player.standsBy.turned);
  expect(second.player.standing).toEqual(first.player.standing);
  expect(second.player.standing!.tappedBpm).toBe(97);
  // An edit of it is heard as ever, and one that has begun already is not put back.
  second.player.load({ ...rig, tempoBpm: 90 }, 2, false, {}, { ...first.player.standing!, mappings: {}, scene: null });
  expect(second.player.shown.mappingStates).toMatchObject({ sends: [false, true, true], scene: 's' });
});

it('a piece that runs goes on in a hub that begins again, where it would be by now: receivers are told where, and nothing is recorded by it', () => {
  const rig = { ...rigOf(false), tempoBpm: 90 };
  // In the tempo of a clock that comes in: 2 beats a second, 48 clocks.
  rig.outputs[0] = { ...rig.outputs[0]!, sendsClock: true };
  const begun = () => {
    const player = new Player(new SoundingBook(memoryStore()));
    const [sent, told]: string[][] = [[], []];
    vi.spyOn(player.leaving, 'midi').mockImplementation((_output, _by, bytes, length) => void sent!.push(hexOf(bytes.slice(0, length))));
    player.door.onTransport = (kind) => void told!.push(kind);
    player.opens('one');
    return { player, sent: sent!, told: told! };
  };
  const [first, second, third] = [begun(), begun(), begun()];
  first.player.load(rig, 1, false, {});
  clock.nowMs += 1000;
  first.player.song.leads(first, 'keys');
  first.player.song.clock(clock.nowMs, 120, NaN);
  first.player.song.does({ does: 'start' });
  clock.nowMs += 1000;
  const { piece } = first.player.standing!;
  expect(piece).toMatchObject({ running: true, bpm: 120, atSystemMs: clock.nowMs });
  expect(Math.abs(piece!.beat - 2)).toBeLessThan(0.01);
  // The next one is there 1,075 ms later: 4 beats after the start, and 0.15 more.
  const { standing } = first.player;
  clock.nowMs += 1075;
  second.player.load(rig, 1, false, {}, standing!);
  expect(second.player.song.now.running).toBe(true);
  expect(Math.abs(second.player.song.now.beat - 4.15)).toBeLessThan(0.01);
  second.player.tick();
  // Position 16 is the beginning of the second bar; 3.6 clocks later the next is the fourth after its first.
  expect(second.sent.slice(second.sent.indexOf('F2 10 00'))).toEqual(['F2 10 00', 'FB', 'F8', 'F8', 'F8', 'F8']);
  expect(second.told).toEqual([]);
  second.player.song.does({ does: 'stop' });
  expect(second.told).toEqual(['stop']);
  expect(second.player.song.now.bpm).toBe(120);
  // One that stood stands there.
  third.player.load(rig, 1, false, {}, { ...first.player.standing!, piece: { running: false, bpm: 120, beat: 9.5, atSystemMs: 0 } });
  expect([third.player.song.now.running, third.player.song.now.beat, third.told]).toEqual([false, 9.5, []]);
});
