import { pino } from 'pino';
import { expect, it, vi } from 'vitest';
import type { WebSocket } from 'ws';
import type { Engine } from '../core/engine/engine';
import { testRig } from '../core/engine/testRig';
import { voiceRig } from '../core/engine/voices/testVoices';
import { voiceEvent } from '../core/voices/event';
import { encodeSamples, FRAME } from '../protocol/frames';
import { encodeVoices } from '../protocol/voiceFrames';
import { LIMITS } from '../protocol/limits';
import { LIVE_VERSION, type FromClient, type ToClient } from '../protocol/live';
import type { Inputs } from './inputs';
import { Intake } from './inputs/intake';
import { LentPorts } from './outputs/lentPorts';
import type { Outputs } from './outputs/outputs';
import { OutputTests } from './outputs/tests';
import { memoryStore, SoundingBook } from './outputs/soundingBook';
import { Player } from './player';
import { RecordControl, recordWorld } from './recordControl';
import { Recorder } from './recorder';
import { Session } from './session';

/** A hub in memory that plays the test rig: a fader drives a controller, a button a note. */
function hub() {
  const player = new Player(new SoundingBook(memoryStore()));
  player.opens('test');
  const rig = testRig([{}, { signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100 } }]);
  player.load(rig, 1, false, {});
  const intake = new Intake(player, () => undefined);
  const inputs = { intake, standIns: { set: () => false, move: () => false }, heldBackChanged: () => undefined, introductionChanged: () => undefined } as unknown as Inputs;
  const outputs = { ports: { outputs: [], usable: false }, lent: new LentPorts(), tests: new OutputTests(player.outputs) } as unknown as Outputs;
  const recorder = new Recorder(() => 'test', () => undefined, () => undefined);
  player.door.journal = recorder;
  const record = new RecordControl(recorder, recordWorld(() => player.song.now, () => undefined));
  /** A page with a socket in memory; `device`: of a joined device that was given the surface of this id. */
  function client(device?: { surface: string | null }) {
    const said: ToClient[] = [];
    const listeners: Record<string, (...args: unknown[]) => void> = {};
    const closed: number[] = [];
    const socket = {
      bufferedAmount: 0,
      on: (event: string, listener: (...args: unknown[]) => void) => void (listeners[event] = listener),
      send: (data: unknown) => void (typeof data === 'string' && said.push(JSON.parse(data) as ToClient)),
      close: (code: number) => void closed.push(code),
    } as unknown as WebSocket;
    const session: Session = new Session(socket, player, inputs, outputs, record, pino({ level: 'silent' }), () => undefined, device ? { id: 'd', tokenHash: 'h', ...device } : null);
    const tell = (message: FromClient | object) => listeners.message!(Buffer.from(JSON.stringify(message)), false);
    let sequence = 0;
    const move = (signal: string | number, value: number, frame: typeof FRAME.samples | typeof FRAME.heldOn = FRAME.samples) =>
      listeners.message!(Buffer.from(encodeSamples(sequence++, Date.now(), [{ signal: typeof signal === 'number' ? signal : player.signals.find(signal)!, value }], frame)), true);
    return { session, said, closed, tell, move, hello: (surface?: string) => tell({ kind: 'hello', version: LIVE_VERSION, ...(surface === undefined ? {} : { surface }) }), problem: () => said.flatMap((message) => (message.kind === 'problem' ? [message.problem] : [])).at(-1) };
  }
  const value = (id: string) => player.shown.signalValue(player.signals.find(id)!);
  return { player, rig, client, value };
}

it('welcomes a page with the names, lets it play its surface and lets go of what it held when it goes', () => {
  const { client, value } = hub();
  const { said, hello, move, session } = client();
  hello('deck');
  expect(said[0]).toMatchObject({ kind: 'welcome', rig: 'test', revision: 1, names: { signals: [[0, 'fog'], [1, 'fog.touch'], [2, 'bell']] } });
  move('fog', 0.5);
  move('bell', 1);
  expect([value('fog'), value('bell')]).toEqual([0.5, 1]);
  session.close();
  expect([value('fog'), value('bell')]).toEqual([0.5, 0]);
});

it('tells a page nothing of the rig before it said hello, and then all of it, however often it says so', () => {
  const { client } = hub();
  for (const device of [undefined, { surface: 'deck' }]) {
    const { session, said, hello } = client(device);
    // The hub took up its rig, or an edit of it, between the socket and its first word.
    session.rigChanged();
    expect(said).toEqual([]);
    for (let times = 0; times < 2; times++) {
      hello('deck');
      const [welcome] = said.splice(0);
      expect(welcome).toMatchObject({ kind: 'welcome', rig: 'test', names: { signals: [[0, 'fog'], [1, 'fog.touch'], [2, 'bell']] } });
      session.rigChanged();
      expect(said.splice(0).map(({ kind }) => kind)).toEqual(['rig']);
    }
  }
});

it('tells a page that was there before the rig where its surface was turned to', () => {
  const { client, player, rig } = hub();
  const { session, said, hello } = client();
  hello('deck');
  const turned = { page: { to: 'below', atMs: 5 } };
  player.standsBy.takeUp(rig, { scene: null, mappings: {}, voiceMappings: {}, members: {}, alone: {}, tappedBpm: null, piece: { running: false, bpm: 120, beat: 0, atSystemMs: 0 }, turned: { deck: turned } });
  said.length = 0;
  session.rigChanged();
  expect(said).toEqual([expect.objectContaining({ kind: 'rig' }), { kind: 'page', turned }]);
});

it('has heard a frame that it refuses or leaves out, too: what it tells after that is newer', () => {
  const { client } = hub();
  const { session, hello, move, problem } = client();
  hello('deck');
  const heard = () => (session as unknown as { watcher: { heardUpTo: number } }).watcher.heardUpTo;
  expect(heard()).toBe(0);
  move('fog', 0.5);
  move(60_000, 1);
  expect([problem()?.code, heard()]).toEqual(['unknown-signal', 2]);
  const many = LIMITS.framesPerSecond.host + 10;
  // All within one second, however long it takes.
  const clock = vi.spyOn(performance, 'now').mockReturnValue(performance.now());
  for (let i = 0; i < many; i++) move('fog', 0.25);
  clock.mockRestore();
  expect([problem()?.code, heard()]).toEqual(['too-many', many + 2]);
});

it('a gate that another page pressed since is not released with the page that pressed it first', () => {
  const { client, value } = hub();
  const [first, second] = [client(), client()];
  for (const { hello, move } of [first, second]) {
    hello('deck');
    move('bell', 1);
  }
  first.session.close();
  expect(value('bell')).toBe(1);
  second.session.close();
  expect(value('bell')).toBe(0);
});

it('what was held while the line was lost is on again and pressed nothing; what was pressed in between, or is new to this hub, is a press', () => {
  const { client, player, rig } = hub();
  player.load({ ...rig, mappings: [{ ...rig.mappings[0]!, signal: 'bell', gate: { press: 'toggle' } }] }, 2, false, {});
  const level = () => (player as unknown as { engine: Engine }).engine.levels[0];
  const line = () => {
    const made = client();
    made.hello('deck');
    return made;
  };
  const first = line();
  first.move('bell', 1);
  expect(level()).toBe(1);
  first.session.close();
  const second = line();
  second.move('bell', 1, FRAME.heldOn);
  expect(level()).toBe(1);
  second.move('bell', 0);
  second.move('bell', 1);
  expect(level()).toBe(0);
  second.session.close();
  // Lifted and pressed anew while nobody heard it.
  const third = line();
  third.move('bell', 0);
  third.move('bell', 1, FRAME.heldOn);
  expect(level()).toBe(1);
  // Another tablet presses it before the first is back.
  third.session.close();
  const [fourth, other] = [line(), line()];
  other.move('bell', 1);
  expect(level()).toBe(0);
  fourth.move('bell', 1, FRAME.heldOn);
  expect(level()).toBe(0);
  // To a hub that knows of no line that was lost it is a press.
  const { client: another, player: fresh } = hub();
  fresh.load({ ...rig, mappings: [{ ...rig.mappings[0]!, signal: 'bell', gate: { press: 'toggle' } }] }, 2, false, {});
  const page = another();
  page.hello('deck');
  page.move('bell', 1, FRAME.heldOn);
  expect((fresh as unknown as { engine: Engine }).engine.levels[0]).toBe(1);
});

it('a page of another version is told to reload; one that plays no surface plays nothing', () => {
  const { client, value } = hub();
  const { tell, move, hello, problem } = client();
  tell({ kind: 'hello', version: 1 });
  expect(problem()).toMatchObject({ code: 'invalid', field: 'version' });
  hello();
  move('fog', 0.5);
  expect([problem(), value('fog')]).toEqual([expect.objectContaining({ code: 'unknown-signal', message: 'This page has no control with the signal fog.' }), 0]);
});

it('a joined device plays the surface it was given, says no more than its row in the table allows, and is told no names of others', () => {
  const { client, rig, player } = hub();
  rig.signals.push({ id: 'secret', name: 'Secret', input: 'deck', kind: 'continuous', unit: 'unit', range: [0, 1] });
  player.load({ ...rig }, 2, false, {});
  const { hello, tell, move, said, problem } = client({ surface: 'deck' });
  hello('other');
  expect(said).toEqual([{ kind: 'given', surface: 'deck' }]);
  hello('deck');
  expect(said[1]).toMatchObject({ kind: 'welcome', names: { signals: [[0, 'fog'], [1, 'fog.touch'], [2, 'bell']], mappings: [], streams: [], outputs: [] } });
  move(3, 1);
  expect(problem()!.message).toBe('This page has no control with the signal number 3.');
  for (const forbidden of [{ kind: 'introduce', mapping: 'm0' }, { kind: 'holdBack', signals: [] }, { kind: 'try', surface: 'deck' }]) {
    tell(forbidden);
    expect(problem()).toMatchObject({ code: 'forbidden', field: forbidden.kind });
  }
  tell({ kind: 'recall', scene: 'none' });
  expect(problem()).toMatchObject({ code: 'forbidden', field: 'scene' });
});

it('a joined device says of what its own surface plays that it was learned, and of nothing else', () => {
  const { client, rig, player } = hub();
  player.load({ ...rig, signals: [...rig.signals, { id: 'rope', name: 'Rope', input: 'deck', kind: 'continuous', unit: 'unit', range: [0, 1] }], mappings: [...rig.mappings, { ...rig.mappings[0]!, id: 'm2', signal: 'rope' }] }, 2, false, {});
  const [host, device] = [client(), client({ surface: 'deck' })];
  host.hello();
  device.hello('deck');
  const next = () => host.said.filter(({ kind }) => kind === 'introduceNext').length;
  const turn = (mapping: string) => {
    host.tell({ kind: 'introduce', mapping, inTurn: { at: 1, of: 2, words: 'one' } });
    device.session.showIntroduction();
    return device.said.at(-1);
  };
  expect(turn('m0')).toMatchObject({ kind: 'introducing', inTurn: { words: 'one' } });
  device.tell({ kind: 'introduceNext' });
  expect(next()).toBe(1);
  expect(turn('m2')).toMatchObject({ kind: 'introducing', inTurn: null });
  device.tell({ kind: 'introduceNext' });
  expect([next(), device.problem()!.code]).toEqual([1, 'forbidden']);
  host.tell({ kind: 'introduceNext' });
  expect(next()).toBe(2);
});

it('a joined device says of voices that its own surface plays that they were learned, and of no others', () => {
  const { client, rig, player } = hub();
  const voices = voiceRig({ stream: 'keys' }, { stream: 'hull' });
  const keys = { id: 'keys', kind: 'keys' as const, label: 'Keys', frame: { x: 0, y: 100, width: 100, height: 100 }, low: 60, high: 72, strength: 'fixed' as const, stream: 'keys', signals: {} };
  const [deck] = rig.surfaces;
  player.load(
    {
      ...rig,
      inputs: [...rig.inputs, ...voices.inputs.filter(({ id }) => id === 'hull')],
      streams: [...voices.streams, { id: 'keys', name: 'Keys', input: 'deck', source: 'keys' }],
      voiceMappings: voices.voiceMappings,
      surfaces: [{ ...deck!, pages: [{ ...deck!.pages[0]!, controls: [...deck!.pages[0]!.controls, keys] }] }],
    },
    2,
    false,
    {},
  );
  const [host, device] = [client(), client({ surface: 'deck' })];
  host.hello();
  device.hello('deck');
  const next = (mapping: string) => {
    host.tell({ kind: 'introduce', mapping, inTurn: { at: 1, of: 2, words: 'one' } });
    device.tell({ kind: 'introduceNext' });
    return host.said.filter(({ kind }) => kind === 'introduceNext').length;
  };
  expect(next('v0')).toBe(1);
  expect([next('v1'), device.problem()!.code]).toEqual([1, 'forbidden']);
});

it('a device that is given another surface lets go of what it held and plays the former one no more', () => {
  const { client, value } = hub();
  const { session, hello, move, said, problem } = client({ surface: 'deck' });
  hello('deck');
  move('bell', 1);
  session.give({ id: 'd', tokenHash: 'h', surface: null });
  expect([value('bell'), said.at(-1)]).toEqual([0, { kind: 'given', surface: null }]);
  move('fog', 0.9);
  expect([value('fog'), problem()!.code]).toEqual([0, 'unknown-signal']);
});

it('an edit reaches a screen of the bench as the edit, and a page that plays as the revision', () => {
  const { client, player, rig } = hub();
  const [bench, deck] = [client(), client()];
  bench.hello();
  deck.hello('deck');
  player.load({ ...rig, name: 'Other' }, 2, false, {});
  const made = { id: 'test', revision: 2, savedAtMs: 0, undo: null, redo: null, edit: { kind: 'setRig' as const, set: { name: 'Other' } } };
  for (const { session } of [bench, deck]) session.rigChanged(made);
  expect(bench.said.at(-1)).toEqual({ kind: 'edited', made });
  expect(deck.said.at(-1)).toEqual({ kind: 'rig', rig: 'test', revision: 2, stage: false });
});

it('what is broken is said and does nothing; who floods is put out', () => {
  const { client, value } = hub();
  const { session, tell, problem, closed, hello } = client();
  hello('deck');
  tell({ kind: 'nonsense' });
  expect(problem()!.field).toBe('kind');
  tell({ kind: 'panic', more: 1 });
  expect(problem()!.code).toBe('invalid');
  expect(value('fog')).toBe(0);
  for (let i = 0; i < 20_000; i++) tell({ kind: 'ping', pageTimeMs: i });
  expect(closed).toContain(1008);
  session.close();
});

/** A page that brings a microphone, and the rig that knows it. */
function withMicrophone(device?: { surface: string | null }) {
  const made = hub();
  const report = { kind: 'microphone' as const, report: device ? 'device d' : 'foghorn', name: 'Foghorn' };
  const rig = {
    ...made.rig,
    inputs: [...made.rig.inputs, { id: 'foghorn', name: 'Foghorn', kind: 'microphone' as const, device: { report: report.report, slot: 1 } }],
    streams: [{ id: 'sung', name: 'Sung', input: 'foghorn', source: 'sung' }],
    voiceMappings: voiceRig({ stream: 'sung', layout: { kind: 'poly', channel: 5, voices: 4, steal: 'oldest' } }).voiceMappings,
  };
  made.player.load(rig, 2, false, {});
  const client = made.client(device);
  client.hello();
  client.tell({ kind: 'feed', feed: 'microphone', report, sources: [{ key: 'level', name: 'Loudness', kind: 'continuous', unit: 'dB', range: [-60, 0] }] });
  const { streams } = client.said.find((message) => message.kind === 'feed')!;
  const sing = (stream: number, kind: 'on' | 'move' | 'off', voice: number, pitch = 60) => client.session['receive'](Buffer.from(encodeVoices(0, Date.now(), [{ ...voiceEvent(kind), stream, voice, pitch }], 0, FRAME.feedVoices)), true);
  const sounding = () => made.player.shown.soundingVoices(made.player.mappings.find('v0')!).map(({ pitch }) => pitch);
  return { ...made, rig, ...client, streams, sing, sounding };
}

it('a microphone of a page plays its streams, a stream of another device and one that it has not told of it does not', () => {
  const { streams, sing, sounding, problem } = withMicrophone();
  expect(streams).toEqual([0, 1]);
  sing(0, 'on', 7);
  expect(sounding()).toEqual([60]);
  sing(0, 'move', 7, 60.5);
  expect(sounding()).toEqual([60.5]);
  // The rig has no stream for mouth sounds: nothing is played, and nothing is wrong.
  sing(1, 'on', 1);
  expect([sounding(), problem()]).toEqual([[60.5], undefined]);
  sing(2, 'on', 1);
  expect(problem()).toMatchObject({ code: 'unknown-signal', field: 'voices[0].stream' });
  sing(0, 'off', 7);
  expect(sounding()).toEqual([]);
});

it.each([
  ['the page', ({ session }: ReturnType<typeof withMicrophone>) => session.close()],
  ['the feed', ({ tell }: ReturnType<typeof withMicrophone>) => tell({ kind: 'feedGone', feed: 'microphone' })],
  [
    'the stream',
    ({ session, player, rig }: ReturnType<typeof withMicrophone>) => {
      player.load({ ...rig, streams: [], voiceMappings: [] }, 3, false, {});
      session.rigChanged();
    },
  ],
])('what a microphone sings ends with %s', (_, goes) => {
  const made = withMicrophone();
  made.sing(0, 'on', 1);
  made.sing(0, 'on', 2, 64);
  // One that begins again ends first, and sounds.
  made.sing(0, 'on', 1, 62);
  expect(made.sounding().sort()).toEqual([62, 64]);
  goes(made);
  expect(made.player.mappings.find('v0') === undefined ? [] : made.sounding()).toEqual([]);
});

it('a joined device brings a microphone as its own', () => {
  const { streams, sing, sounding } = withMicrophone({ surface: null });
  sing(streams[0]!, 'on', 1);
  expect(sounding()).toEqual([60]);
});
