import { cpSync, existsSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RigOutput } from '../../src/core/outputs/kinds';
import type { RigDocument } from '../../src/core/rig/document';
import { OPENING, type OutputsState } from '../../src/protocol/live';
import { TestClient } from '../helpers/client';
import { Pumice, waitFor } from '../helpers/pumice';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const PROGRAM = join(ROOT, 'node_modules/.cache/fake-ports');

interface FakePort {
  id: string;
  name: string;
  opensAfterMs?: number;
  refuses?: boolean;
  blocks?: boolean;
  fails?: boolean;
  takesMs?: number;
  onTheWayMs?: number;
}

// Against a MIDI system that is a folder: it can do what real ones do only when it hurts.
describe('MIDI ports that come, go and fail', () => {
  const folder = mkdtempSync(join(tmpdir(), 'pumice-ports-'));
  let pumice: Pumice;
  let client: TestClient;
  let surface: TestClient;

  /** These outputs are there from now on. */
  const there = (...outputs: FakePort[]) => {
    writeFileSync(join(folder, 'next.json'), JSON.stringify({ inputs: [], outputs }));
    renameSync(join(folder, 'next.json'), join(folder, 'ports.json'));
  };
  const written = (id: string) => (existsSync(join(folder, `${id}.log`)) ? readFileSync(join(folder, `${id}.log`), 'utf8').trim().split('\n') : []);
  const rig = async () => ((await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: RigDocument }).document;
  const put = async (output: RigOutput | ({ id: string } & Record<string, unknown>)) => expect((await pumice.give({ kind: 'change', changes: [{ list: 'outputs', id: output.id, to: output }] })).status).toBe(200);
  const lead = async (id: string, leads: object) => {
    const { name, receiver } = (await rig()).outputs.find((output) => output.id === id)!;
    await put({ id, name, receiver, ...leads });
  };
  const port = (report: string, slot = 1) => ({ kind: 'port', device: { report, slot } });
  const state = (): OutputsState | undefined => client.messages.flatMap((message) => (message.kind === 'outputs' ? [message.outputs] : [])).at(-1);
  const away = (id: string) => state()?.outputs.find((output) => output.id === id)?.away;
  const isHere = (id: string) => waitFor(`${id} to be here`, () => away(id) === null);
  const fog = (value: number) => surface.move('wheelhouse.fog', value / 127);
  const hears = (id: string, value: number) => {
    const line = `B2 15 ${value.toString(16).toUpperCase().padStart(2, '0')}`;
    return waitFor(`${id} to hear ${value}`, () => written(id).includes(line));
  };

  beforeAll(async () => {
    rmSync(PROGRAM, { recursive: true, force: true });
    cpSync(join(ROOT, 'dist'), join(PROGRAM, 'dist'), { recursive: true });
    cpSync(join(ROOT, 'test/helpers/fakeMidi'), join(PROGRAM, 'node_modules/@julusian/midi'), { recursive: true });
    there();
    pumice = await Pumice.fresh(undefined, { PUMICE_FAKE_MIDI: folder });
    pumice.program = join(PROGRAM, 'dist');
    await pumice.run();
    client = await TestClient.open(pumice.hubPort);
    client.watch({ outputStates: true });
    surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
  });
  afterAll(async () => {
    client?.close();
    surface?.close();
    await pumice?.stop();
  });

  it('one that is pulled out while a note sounds is named and counted; back, it is told what it holds, the end of the note, and no old one', async () => {
    there({ id: 'horn', name: 'Horn' });
    await lead('bell-and-rigging', port('Horn'));
    await isHere('bell-and-rigging');
    surface.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => written('horn').some((line) => line.startsWith('99 ')));
    const note = written('horn').find((line) => line.startsWith('99 '))!.slice(3, 5);
    there();
    await waitFor('it to be missed', () => away('bell-and-rigging') === 'is not here');
    surface.move('wheelhouse.horn', 0);
    surface.move('wheelhouse.horn', 1);
    surface.move('wheelhouse.horn', 0);
    await waitFor('what it missed', () => state()!.outputs.find(({ id }) => id === 'bell-and-rigging')!.missed >= 3);
    there({ id: 'horn-again', name: 'Horn' });
    await isHere('bell-and-rigging');
    await waitFor('the end of the note', () => written('horn-again').includes(`89 ${note} 40`));
    expect(written('horn-again')[0]).toBe(`89 ${note} 40`);
    expect(written('horn-again').filter((line) => line.startsWith('9'))).toEqual([]);
    await lead('bell-and-rigging', { kind: 'standIn' });
  });

  it('two of one name are told apart by their place, and each is known again when the list changes', async () => {
    there({ id: 'first', name: 'Twin' }, { id: 'second', name: 'Twin' });
    await lead('weather', port('Twin', 2));
    await isHere('weather');
    fog(11);
    await hears('second', 11);
    there({ id: 'other', name: 'Another' }, { id: 'first', name: 'Twin' }, { id: 'second', name: 'Twin' });
    await waitFor('the list', () => state()!.ports.length === 3);
    fog(12);
    await hears('second', 12);
    expect(written('first')).toEqual([]);
  });

  it('one in another socket, whose number changed, is the same', async () => {
    there({ id: 'usb', name: 'Deck box:Deck box MIDI 1 20:0' });
    await lead('weather', port('Deck box:Deck box MIDI 1'));
    await isHere('weather');
    there();
    await waitFor('it to be missed', () => away('weather') === 'is not here');
    there({ id: 'usb', name: 'Deck box:Deck box MIDI 1 28:0' });
    await isHere('weather');
    fog(21);
    await hears('usb', 21);
  });

  it('one that takes ten seconds to open delays nobody else', async () => {
    there({ id: 'slow', name: 'Slow', opensAfterMs: 10_000 }, { id: 'quick', name: 'Quick' });
    await lead('hull-song', port('Slow'));
    await waitFor('it to be opened', () => away('hull-song') === OPENING);
    await lead('weather', port('Quick'));
    await isHere('weather');
    fog(31);
    await hears('quick', 31);
    expect(away('hull-song')).toBe(OPENING);
    await isHere('hull-song');
    await lead('hull-song', { kind: 'standIn' });
  });

  it('one that will not open says why, and is tried again until it does', async () => {
    there({ id: 'busy', name: 'Busy', refuses: true });
    await lead('weather', port('Busy'));
    await waitFor('why', () => away('weather') === 'cannot be opened (it is in use by another program)');
    there({ id: 'busy', name: 'Busy' });
    await isHere('weather');
    fog(41);
    await hears('busy', 41);
  });

  it('one that takes nothing any more is given up, and the others go on with what they hold', async () => {
    there({ id: 'stone', name: 'Stone', blocks: true }, { id: 'live', name: 'Live' });
    await lead('hull-song', port('Stone'));
    await lead('weather', port('Live'));
    await isHere('hull-song');
    await isHere('weather');
    client.tell({ kind: 'testOutput', output: 'hull-song', on: true });
    fog(51);
    await hears('live', 51);
    await waitFor('it to be given up', () => away('hull-song') === 'takes nothing any more');
    fog(52);
    await hears('live', 52);
    await lead('hull-song', { kind: 'standIn' });
  });

  it('one that fails while it is written to is named, and opened again', async () => {
    there({ id: 'weak', name: 'Weak', fails: true });
    await lead('weather', port('Weak'));
    // It is here for a moment only: what it should hold is written at once.
    await waitFor('why', () => {
      fog(60 + Math.round(Math.random() * 9));
      return away('weather') === 'was closed (it failed)';
    });
    there({ id: 'weak', name: 'Weak' });
    await isHere('weather');
    fog(61);
    await hears('weak', 61);
  });

  it('one that takes less than it is given is closed, and back with what it holds, no note left, and nothing old', async () => {
    there({ id: 'lame', name: 'Lame', takesMs: 2 });
    const { outputs } = await rig();
    const bell = outputs.find(({ id }) => id === 'bell-and-rigging')!;
    await lead('weather', port('Lame'));
    await put({ ...bell, configuration: 'blocked' });
    await isHere('weather');
    await pumice.edit('bell', { output: 'weather' });
    await waitFor('the bell to sound there', () => {
      surface.move('wheelhouse.bell', 0);
      surface.move('wheelhouse.bell', 1);
      return written('lame').some((line) => line.startsWith('99 43'));
    });
    // More than may wait, but not so much that the hub is kept from saying so.
    let given = 0;
    await waitFor('it to be too much', () => {
      for (let i = 0; i < 150 && given < 7000; i++) fog(given++ % 128);
      return away('weather') === 'was closed (it takes less than it is given)';
    });
    surface.move('wheelhouse.bell', 0);
    fog(77);
    await isHere('weather');
    await waitFor('the end of all notes', () => written('lame').includes('B9 7B 00'));
    await hears('lame', 77);
    const since = written('lame').slice(written('lame').lastIndexOf('B9 7B 00'));
    expect(since.filter((line) => line.startsWith('99'))).toEqual([]);
    await pumice.edit('bell', { output: 'bell-and-rigging' });
    await put(bell);
  });

  it('two hundred are listed, and names of any characters are written as they are', async () => {
    const strange = 'Ærø · 船 "quoted" <b>&amp;</b> \\ /';
    there({ id: 'strange', name: strange }, ...Array.from({ length: 200 }, (_, i) => ({ id: `p${i}`, name: `Port ${i}` })));
    await waitFor('all of them', () => state()!.ports.length === 201);
    expect(state()!.ports[0]).toEqual({ report: strange, slot: 1 });
    await lead('weather', port(strange));
    await isHere('weather');
    fog(71);
    await hears('strange', 71);
  });

  it('what leads there later by delay, slowly or filtered comes so', async () => {
    there({ id: 'late', name: 'Late' });
    await lead('weather', { ...port('Late'), delayMs: 50, bytesPerS: 3125, filter: { channels: [3], withoutControllers: [22] } });
    await isHere('weather');
    surface.move('wheelhouse.swell', 1);
    fog(81);
    await hears('late', 81);
    expect(written('late').every((line) => line.startsWith('B2') && !line.startsWith('B2 16'))).toBe(true);
  });

  it('the test of an output plays a scale and a sweep, and every note of it ends', async () => {
    there({ id: 'tried', name: 'Tried' });
    await lead('weather', port('Tried'));
    await isHere('weather');
    client.tell({ kind: 'testOutput', output: 'weather', on: true });
    await waitFor('the last note', () => written('tried').includes('92 48 5A'));
    await waitFor('its end', () => written('tried').includes('82 48 40'));
    await waitFor('the wheel to be back', () => written('tried').at(-1) === 'B2 01 00');
    const notes = written('tried').filter((line) => line.startsWith('92')).map((line) => parseInt(line.slice(3, 5), 16));
    expect(notes).toEqual([60, 62, 64, 65, 67, 69, 71, 72]);
    expect(written('tried').filter((line) => line.startsWith('82'))).toHaveLength(8);
  });

  // The last one: it stops Pumice.
  it('when Pumice stops, the end of a note is heard also where a system loses what is on its way while any port closes', async () => {
    there({ id: 'rounds', name: 'Rounds', onTheWayMs: 30 }, { id: 'beside', name: 'Beside' });
    await lead('bell-and-rigging', port('Rounds'));
    await lead('weather', port('Beside'));
    await isHere('bell-and-rigging');
    await isHere('weather');
    surface.move('wheelhouse.horn', 0);
    surface.move('wheelhouse.horn', 1);
    const [note] = await waitFor('the horn', () => written('rounds').find((line) => line.startsWith('99 '))?.match(/(?<=^99 )../));
    await pumice.stop();
    expect(written('rounds').at(-1)).toBe(`89 ${note} 40`);
  });
});
