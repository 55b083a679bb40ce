import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import type { Sequelize } from 'sequelize';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Engine } from '../../core/engine/engine';
import { packKept } from '../../core/engine/snapshot';
import { cc } from '../../core/engine/testScript';
import { testRig } from '../../core/engine/testRig';
import { LogWriter } from '../../core/takes/log';
import { TakeRenderer } from '../../core/takes/render';
import { ScoreWriter } from '../../core/takes/score';
import type { FromWeb } from '../../protocol/live';
import { beginningOf, type TakeRecord } from '../../protocol/takes';
import { openDatabase } from '../storage/database';
import { TakeRepository } from '../storage/takeRepository';
import { TakeDesk } from './takeDesk';
import { Renders, type RenderWorker } from './renders';
import type { FromRenderer, ToRenderer } from './renderWorker';

const GB = 2 ** 30;
let database: Sequelize;
let desk: TakeDesk;
let repository: TakeRepository;
let told: FromWeb[];
let room: number;
let nowMs: number;

/** Renders in this thread, as the worker does. */
function workerHere(): RenderWorker {
  let renderer: TakeRenderer | null = null;
  let writer = new ScoreWriter();
  const listeners: ((said: FromRenderer) => void)[] = [];
  const obey = (said: ToRenderer): FromRenderer => {
    if (said.kind === 'begin') {
      writer = new ScoreWriter();
      const beginning = beginningOf(said.start);
      renderer = new TakeRenderer(beginning, { midi: (timeMs, source, bytes, length) => writer.message(timeMs - beginning.startMs, source, bytes, length), osc: () => undefined });
      return { kind: 'ready' };
    }
    if (said.kind === 'pieces') for (const piece of said.pieces) renderer!.piece(piece);
    if (said.kind !== 'end') return { kind: 'ready' };
    return { kind: 'score', pieces: [writer.take()], messages: writer.messages, leftOut: [], sketch: null, beyond: null };
  };
  return {
    postMessage(said) {
      let answer: FromRenderer;
      try {
        answer = obey(said);
      } catch (error) {
        answer = { kind: 'failed', sentence: (error as Error).message };
      }
      queueMicrotask(() => listeners.forEach((listener) => listener(answer)));
    },
    on(event: string, listener: (said: FromRenderer) => void) {
      if (event === 'message') listeners.push(listener);
    },
    terminate: () => undefined,
  } as RenderWorker;
}

beforeEach(async () => {
  [told, room, nowMs] = [[], 100 * GB, 1_000_000];
  const folder = mkdtempSync(join(tmpdir(), 'pumice-desk-'));
  database = await openDatabase(folder);
  repository = new TakeRepository(database);
  desk = new TakeDesk(repository, folder, (message) => void told.push(message), pino({ level: 'silent' }), new Renders(repository, workerHere), () => nowMs, () => Promise.resolve(room));
});
afterEach(() => database.close());

/** A take of one fader, as the hub hands it over: a piece for each value. */
function records(values: readonly number[], take = 'one'): TakeRecord[] {
  const engine = new Engine(testRig([{ message: cc(20) }]), { midi: () => undefined, osc: () => undefined });
  const writer = new LogWriter();
  const state = engine.state;
  const begins: TakeRecord = { kind: 'begins', take, number: 0, startMs: 100, startedAtMs: 5, rigId: 'r', rigName: 'Test rig', rig: JSON.stringify(engine.plan.rig), seed: 1, addresses: state.addresses, state: Buffer.from(packKept(state.kept)).toString('base64') };
  const pieces = values.map((value, i): TakeRecord => {
    writer.write({ kind: 'sample', signal: 0, value, timeMs: 110 + 10 * i }, engine.plan);
    const { firstMs, lastMs, events, bytes } = writer.take()!;
    return { kind: 'piece', take, number: i + 1, firstMs, lastMs, events, bytes: Buffer.from(bytes).toString('base64') };
  });
  return [begins, ...pieces, { kind: 'ends', take, number: values.length + 1, lastMs: 500 }];
}

const stored = () => told.flatMap((message) => (message.kind === 'takeStored' ? [message.number] : []));
const refused = () => told.flatMap((message) => (message.kind === 'takeRefused' ? [message.reason] : []));
const settled = (done: () => boolean | Promise<boolean>) => expect.poll(done, { timeout: 10_000, interval: 5 }).toBe(true);
/** Hands records over and waits for the answer to the last. */
async function give(...given: TakeRecord[]): Promise<void> {
  const before = told.length;
  given.forEach((record) => desk.take(record));
  await settled(() => told.slice(before).some((message) => message.kind === 'takeRefused' || (message.kind === 'takeStored' && message.number === given.at(-1)!.number)));
}
const bytesOf = async (id: string) => {
  await settled(async () => (await desk.detail(id)).versions.length > 0);
  const table = await desk.messages(id, (await desk.detail(id)).versions[0]!.id);
  return Array.from({ length: table.length }, (_, i) => table.at(i)!.bytes[2]);
};

describe('what the hub hands over', () => {
  it('is written down in order, each record once, and rendered when it has ended', async () => {
    const all = records([0.2, 0.4, 1]);
    await give(...all);
    expect(stored()).toEqual([0, 1, 2, 3, 4]);
    // Said again, as after a line that was lost: nothing is there twice.
    await give(...all);
    expect(await desk.list()).toMatchObject([{ name: 'Take 1', events: 3, lengthMs: 400, state: 'whole' }]);
    expect(await bytesOf('one')).toEqual([25, 51, 127]);
    await Promise.all([desk.detail('one'), desk.detail('one'), give(all.at(-1)!)]);
    await settled(() => desk.renders.running.size === 0);
    expect((await desk.detail('one')).versions).toHaveLength(1);
  });
  it('a record that comes before one that is missing is not taken; the rest comes again from there', async () => {
    const [begins, first, second] = records([0.2, 0.4]) as [TakeRecord, TakeRecord, TakeRecord];
    await give(begins);
    desk.take(second);
    await give(first, second);
    expect(stored()).toEqual([0, 1, 2]);
    expect((await desk.list())[0]).toMatchObject({ events: 2, state: 'recording' });
  });
  it('a full disk in the middle of a take is said, loses nothing, and is over once there is room', async () => {
    const all = records([0.2, 0.4, 0.6]);
    await give(all[0]!, all[1]!);
    room = 1000;
    nowMs += 10_000;
    await give(all[2]!);
    expect(refused()).toEqual([expect.stringContaining('The disk is full')]);
    expect((await desk.list())[0]).toMatchObject({ events: 1 });
    room = GB / 2;
    nowMs += 10_000;
    await give(...all.slice(2));
    expect(told.findLast((message) => message.kind === 'takeStored')).toMatchObject({ warning: 'The disk has only 537 MB left for takes: free some space on it.' });
    expect(await bytesOf('one')).toEqual([25, 51, 76]);
  });
  it('a database that takes no more is said as well, and tried again', async () => {
    const all = records([0.2]);
    await give(all[0]!);
    await database.query('DROP TABLE take_pieces');
    await give(all[1]!);
    expect(refused()).toEqual([expect.stringContaining('tried again every second')]);
    expect((await desk.list())[0]!.events).toBe(0);
  });
});

describe('a hub that comes back', () => {
  it('without the take that it recorded: the take ends where it is, and recording goes on; not after a start of everything', async () => {
    await give(...records([0.2, 0.4]).slice(0, 3));
    await desk.hubIsThere('one');
    expect((await desk.list())[0]!.state).toBe('recording');
    await desk.hubIsThere(null);
    expect((await desk.list())[0]!.state).toBe('cut');
    expect(told.at(-1)).toEqual({ kind: 'record' });
    expect(await bytesOf('one')).toEqual([25, 51]);
    const other = new TakeDesk(repository, tmpdir(), (message) => void told.push(message), pino({ level: 'silent' }), new Renders(repository, workerHere));
    told.length = 0;
    await other.hubIsThere(null);
    expect(told).toEqual([]);
  });
  it('with the end of a take that was taken for cut: it is whole', async () => {
    const all = records([0.2]);
    await give(all[0]!, all[1]!);
    await desk.hubIsThere(null);
    await give(all[2]!);
    expect((await desk.list())[0]!.state).toBe('whole');
  });
});

describe('a take', () => {
  it('is named and marked; what is wrong is said with its field; the name of the next counts on', async () => {
    await give(...records([0.2]));
    await give(...records([0.3], 'two'));
    expect((await desk.list()).map(({ name }) => name)).toEqual(['Take 2', 'Take 1']);
    await desk.change('two', { name: 'Crossing', marks: [{ atMs: 5, name: 'Here' }] });
    expect((await desk.list())[0]).toMatchObject({ name: 'Crossing', marks: [{ atMs: 5, name: 'Here' }] });
    await expect(desk.change('two', { name: 'x'.repeat(200) })).rejects.toThrow('name');
    await expect(desk.change('gone', { name: 'x' })).rejects.toThrow('There is no such take');
  });
  it('whose rig or log cannot be read any more says so, and is kept', async () => {
    const all = records([0.2]);
    await give(all[0]!, { ...(all[1] as TakeRecord & { kind: 'piece' }), bytes: Buffer.from(Uint8Array.of(0, 99, 0)).toString('base64') }, all[2]!);
    await settled(async () => (await desk.detail('one')).failure !== null);
    expect(await desk.detail('one')).toMatchObject({ failure: expect.stringContaining('record of kind 99') as string, take: { state: 'whole' } });
  });
  it('counts as being rendered from the moment that it is asked for until what came of it is there', async () => {
    await give(...records([0.2, 0.4]));
    await settled(async () => (await desk.detail('one')).versions.length === 1);
    const stands = async () => {
      const { rendering, versions } = await desk.detail('one');
      return [rendering?.name, versions.length];
    };
    const { beginning, addVersion } = TakeRepository.prototype;
    const held: (() => void)[] = [];
    const gate = () => new Promise<void>((resolve) => held.push(resolve));
    vi.spyOn(repository, 'beginning').mockImplementationOnce(async (id) => (await gate(), beginning.call(repository, id)));
    vi.spyOn(repository, 'addVersion').mockImplementation(async (...added) => (await gate(), addVersion.apply(repository, added)));
    const done = desk.render('one', 'Through another', JSON.stringify(testRig([{ message: cc(30) }])));
    expect(await stands()).toEqual(['Through another', 1]);
    await expect(desk.mustBeFree('one')).rejects.toThrow('rendered already');
    for (const at of [0, 1]) {
      await settled(() => held.length > at);
      expect(await stands()).toEqual(['Through another', 1]);
      held[at]!();
    }
    await done;
    expect(await stands()).toEqual([undefined, 2]);
  });
  it('that came with the program is rendered when somebody lists the takes, once', async () => {
    const [start, ...rest] = records([0.2, 0.4]) as [TakeRecord & { kind: 'begins' }, ...TakeRecord[]];
    const pieces = rest.flatMap((record) => (record.kind === 'piece' ? [Uint8Array.from(Buffer.from(record.bytes, 'base64'))] : []));
    await desk.seed([{ start, name: 'Crossing', lengthMs: 400, events: 2, marks: [], pieces, versions: [], remarks: [] }]);
    expect(await repository.versions('one')).toEqual([]);
    for (let i = 0; i < 5; i++) expect((await desk.list()).map(({ name }) => name)).toEqual(['Crossing']);
    await settled(async () => (await repository.versions('one')).length === 1);
    await desk.list();
    await settled(() => desk.renders.running.size === 0);
    expect(await bytesOf('one')).toEqual([25, 51]);
    expect(await repository.versions('one')).toHaveLength(1);
  });
  it('that is recorded is not deleted; one that is goes with all its rows', async () => {
    const all = records([0.2]);
    await give(all[0]!);
    await expect(desk.remove('one')).rejects.toThrow('Take 1 is being recorded: end it first.');
    await give(...all.slice(1));
    await bytesOf('one');
    await desk.remove('one');
    for (const table of ['takes', 'take_pieces', 'take_versions']) expect((await database.query(`SELECT COUNT(*) AS n FROM ${table}`))[0]).toEqual([{ n: 0 }]);
  });
  it('plays in stretches that the hub asks for; a later play is not mixed with an earlier one', async () => {
    await give(...records([0.2, 0.4, 1]));
    await bytesOf('one');
    const version = (await desk.detail('one')).versions[0]!.id;
    await desk.play('one', version, { fromMs: 15 });
    expect(told.slice(-2)).toMatchObject([
      { kind: 'playTake', play: 1, state: { take: 'one', fromMs: 15, speed: 1, loop: null }, tempoBpm: 120 },
      // The value that held there first, then those that were still to come; the take begins at 100.
      { kind: 'takeMessages', play: 1, last: true, messages: [[0, 'weather', expect.any(String), false], [5, 'weather', expect.any(String), false], [15, 'weather', expect.any(String), false]] },
    ]);
    await desk.play('one', version, {});
    told.length = 0;
    desk.player.more(1, 8000);
    expect(told).toEqual([]);
    await expect(desk.play('one', version, { speed: 100 })).rejects.toThrow('speed');
  });
  it('that is stopped, played from elsewhere or deleted before it was read is not heard after that', async () => {
    await give(...records([0.2, 0.4, 1]));
    await bytesOf('one');
    const version = (await desk.detail('one')).versions[0]!.id;
    const plays = () => told.flatMap((message) => (message.kind === 'playTake' ? [message.state.fromMs] : []));
    const stopped = desk.play('one', version, { fromMs: 1 });
    desk.stopPlaying();
    await stopped;
    expect(plays()).toEqual([]);
    await Promise.all([desk.play('one', version, { fromMs: 2 }), desk.play('one', version, { fromMs: 3 })]);
    expect(plays()).toEqual([3]);
    // One that cannot be read leaves alone what plays, which goes with its take.
    await expect(desk.play('gone', version, {})).rejects.toThrow('There is no such take');
    told.length = 0;
    await Promise.all([desk.remove('one'), desk.play('one', version, { fromMs: 4 }).catch(() => undefined)]);
    expect(told).toContainEqual({ kind: 'stopTake' });
    expect(plays()).toEqual([]);
  });
});
