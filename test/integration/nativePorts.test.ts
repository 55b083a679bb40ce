import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RigOutput } from '../../src/core/outputs/kinds';
import type { RigDocument } from '../../src/core/rig/document';
import type { OutputsState } from '../../src/protocol/live';
import { MidiPeer, MidiSystem, hasMidiSystem } from '../helpers/midiSystem';
import { TestClient } from '../helpers/client';
import { kill, waitFor, type Pumice } from '../helpers/pumice';

// Against a real MIDI system and an independent other end, where they can be installed (see bin/setup/nativePorts). How ports go
// and fail is tested in ports.test.ts: JACK's server survives that too seldom.
describe.skipIf(!hasMidiSystem)('native MIDI ports', () => {
  const system = new MidiSystem('pumice-test');
  let pumice: Pumice;
  let client: TestClient;
  let horn: MidiPeer;

  const rig = async () => ((await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: RigDocument }).document;
  const put = async (output: RigOutput | ({ id: string } & Record<string, unknown>)) => expect((await pumice.give({ kind: 'change', changes: [{ list: 'outputs', id: output.id, to: output }] })).status).toBe(200);
  const state = (): OutputsState | undefined => client.messages.flatMap((message) => (message.kind === 'outputs' ? [message.outputs] : [])).at(-1);
  const outputState = (id: string) => state()?.outputs.find((output) => output.id === id);
  const isHere = (id: string) => waitFor(`${id} to be here`, () => outputState(id)?.away === null);
  /** Points Fog density's way at another place. */
  const weather = (leads: object) => put({ id: 'weather', name: 'Weather', receiver: 'weather', ...leads });
  const port = (report: string) => ({ kind: 'port', device: { report, slot: 1 } });
  const surfaceOf = () => TestClient.open(pumice.hubPort, 'wheelhouse');

  beforeAll(async () => {
    await system.start();
    horn = await MidiPeer.open(system, 'Horn');
    pumice = await system.pumice();
    await pumice.run();
    client = await TestClient.open(pumice.hubPort);
    client.watch({ outputStates: true });
  });
  afterAll(async () => {
    client?.close();
    await pumice?.stop();
    await horn?.end();
    await system.stop();
  });

  it('are listed as others name them, and those of Pumice are not', async () => {
    await waitFor('the port', () => state()?.ports.some(({ report }) => report === 'Horn in:in'));
    expect(state()!.usable).toBe(true);
  });

  it('carry what a finger plays, in order and whole, also SysEx and a burst', async () => {
    await weather(port('Horn in:in'));
    await isHere('weather');
    const surface = await surfaceOf();
    surface.move('wheelhouse.fog', 0.5);
    await waitFor('a controller', () => horn.lines.includes('B2 15 40'));
    const before = horn.lines.length;
    for (let i = 0; i <= 127; i++) surface.move('wheelhouse.fog', i / 127);
    await waitFor('the last', () => horn.lines.slice(before).includes('B2 15 7F'));
    const values = horn.lines.slice(before).filter((line) => line.startsWith('B2 15')).map((line) => parseInt(line.slice(6), 16));
    expect(values).toEqual([...values].sort((a, b) => a - b));
    const sysEx = [0xf0, 0x7d, ...Array.from({ length: 200 }, (_, i) => i % 128), 0xf7];
    const [scene] = (await rig()).scenes;
    await pumice.give({ kind: 'change', changes: [{ list: 'scenes', id: scene!.id, to: { ...scene, messages: [{ output: 'weather', bytes: sysEx }] } }] });
    client.tell({ kind: 'recall', scene: scene!.id });
    const wanted = sysEx.map((byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' ');
    await waitFor('the SysEx', () => horn.lines.includes(wanted));
    surface.close();
  });

  it('are heard: what another program plays becomes an input, and a burst of it arrives whole', async () => {
    let value = 0x10;
    const input = await waitFor('the input', async () => {
      horn.say(`B0 14 ${(value = 0x30 - value).toString(16)}`);
      return (await rig()).inputs.find((one) => one.kind === 'midi' && one.device?.report === 'Horn out:out');
    });
    await pumice.give({ kind: 'setInput', input: input.id, set: { thru: { output: 'weather', channels: [1], kinds: ['controllers'] } } });
    const before = horn.lines.length;
    await waitFor('it to go through', () => {
      horn.say('B0 15 01');
      return horn.lines.slice(before).includes('B0 15 01');
    });
    const mark = horn.lines.length;
    horn.say('burst 200');
    await waitFor('all of it', () => horn.lines.slice(mark).filter((line) => line.startsWith('B0 14')).length >= 200);
    expect(horn.lines.slice(mark).filter((line) => line.startsWith('B0 14'))).toEqual(Array.from({ length: 200 }, (_, i) => `B0 14 ${(i % 128).toString(16).toUpperCase().padStart(2, '0')}`));
    // What says that it is there and then nothing any more was pulled out: what it holds ends.
    await pumice.give({ kind: 'setInput', input: input.id, set: { thru: { output: 'weather', channels: [1], kinds: ['notes'] } } });
    await waitFor('its note to go through', () => {
      for (const line of ['FE', '80 31 40', '90 31 33']) horn.say(line);
      return horn.lines.includes('90 31 33');
    });
    await waitFor('its end', () => horn.lines.lastIndexOf('80 31 40') > horn.lines.lastIndexOf('90 31 33'));
    await pumice.give({ kind: 'setInput', input: input.id, set: { thru: null } });
  });

  it('end their notes where the hub dies, where Pumice stops, and are open again by themselves', async () => {
    const bell = (await rig()).outputs.find(({ id }) => id === 'bell-and-rigging')!;
    await put({ ...bell, ...port('Horn in:in') });
    await isHere(bell.id);
    let surface = await surfaceOf();
    const before = horn.lines.length;
    surface.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => horn.lines.slice(before).some((line) => line.startsWith('99 ')));
    kill((await pumice.health()).hub.pid);
    await waitFor('its end', () => horn.lines.slice(before).some((line) => line.startsWith('89 ')));
    surface.close();
    await waitFor('the hub', async () => (await pumice.health()).ok);
    surface = await surfaceOf();
    const mark = horn.lines.length;
    await waitFor('it to sound again', () => {
      surface.move('wheelhouse.horn', 0);
      surface.move('wheelhouse.horn', 1);
      return horn.lines.slice(mark).some((line) => line.startsWith('99 '));
    });
    await pumice.stop();
    await waitFor('each to have ended', () => {
      const since = horn.lines.slice(mark);
      return since.filter((line) => line.startsWith('89 ')).length === since.filter((line) => line.startsWith('99 ')).length;
    });
    await waitFor('nothing of it to be left', async () => (await pumice.leftovers()).length === 0);
    await pumice.run();
    surface.close();
    surface = await surfaceOf();
    const last = horn.lines.length;
    await waitFor('it to sound after a start', () => {
      surface.move('wheelhouse.horn', 0);
      surface.move('wheelhouse.horn', 1);
      return horn.lines.slice(last).some((line) => line.startsWith('99 '));
    });
    surface.close();
  });

  it('of our own making are seen and heard by other programs', async () => {
    await weather({ kind: 'virtual', port: 'Ferry' });
    await isHere('weather');
    const other = await MidiPeer.open(system, 'Listener');
    other.say('open Ferry');
    await other.prints('opened');
    const surface = await surfaceOf();
    await waitFor('what leaves by it', () => {
      surface.move('wheelhouse.fog', 1);
      surface.move('wheelhouse.fog', 0.25);
      return other.lines.some((line) => line.startsWith('b B2 15'));
    });
    expect((await rig()).inputs.some((input) => input.kind === 'midi' && input.device?.report.includes('Ferry'))).toBe(false);
    surface.close();
    await weather({ kind: 'standIn' });
    await waitFor('it to be gone', async () => (await system.ports()).every((port) => !port.includes('Ferry')));
    await other.end();
  });
});
