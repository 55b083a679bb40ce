import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RigDocument } from '../../src/core/rig/document';
import { Monitor } from '../helpers/monitor';
import { TestClient } from '../helpers/client';
import { Pumice, waitFor } from '../helpers/pumice';

let pumice: Pumice;
let surface: TestClient;
let monitor: Monitor;

beforeAll(async () => {
  pumice = await Pumice.fresh();
  if ((await pumice.start()) !== null) throw new Error(pumice.output);
  await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
  surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
  monitor = await Monitor.open(pumice.url);
}, 60_000);
afterAll(async () => {
  surface.close();
  monitor.close();
  await pumice.stop();
});

const get = async <T>(path: string) => (await (await fetch(`${pumice.url}${path}`)).json()) as T;
const rig = async () => (await get<{ document: RigDocument }>('/api/rig')).document;

describe('introducing a mapping', () => {
  const begin = async (mapping: string, how: 'sweep' | 'follow') => {
    const client = await TestClient.open(pumice.hubPort);
    client.tell({ kind: 'introduce', mapping, how });
    await waitFor('it to be said', () => client.messages.some((message) => message.kind === 'introducing' && message.mapping === mapping));
    return client;
  };
  it('sweeps it alone; what was held back comes at its present value when the page leaves', async () => {
    surface.move('wheelhouse.swell', 0);
    await waitFor('the swell at rest', () => monitor.sent.includes('weather B2 16 00'));
    const client = await begin('fog', 'sweep');
    monitor.facts.length = 0;
    for (let i = 1; i <= 20; i++) surface.move('wheelhouse.swell', i / 20);
    await waitFor('the sweep', () => new Set(monitor.sent.filter((line) => line.startsWith('weather B2 15'))).size > 20);
    expect(monitor.sent.filter((line) => !line.startsWith('weather B2 15'))).toEqual([]);
    client.socket.terminate();
    await waitFor('the swell where it is now', () => monitor.sent.includes('weather B2 16 7F'));
  });
  it('follows the hand alone, and ends when asked', async () => {
    const client = await begin('fog', 'follow');
    monitor.facts.length = 0;
    surface.move('wheelhouse.swell', 0.25);
    surface.move('wheelhouse.fog', 0.9);
    await waitFor('the fog', () => monitor.sent.includes('weather B2 15 72'));
    expect(monitor.sent.some((line) => line.startsWith('weather B2 16'))).toBe(false);
    client.tell({ kind: 'introduce', mapping: null });
    await waitFor('the swell', () => monitor.sent.includes('weather B2 16 20'));
    client.close();
  });
  it('presses and lets go of a note, and none is left sounding', async () => {
    const client = await begin('bell', 'sweep');
    monitor.facts.length = 0;
    await waitFor('two strokes', () => monitor.sent.filter((line) => line.startsWith('bell-and-rigging 99')).length >= 2);
    client.tell({ kind: 'introduce', mapping: null });
    await waitFor('as many ends as beginnings', () => {
      const count = (status: string) => monitor.sent.filter((line) => line.startsWith(`bell-and-rigging ${status}`)).length;
      return count('99') === count('89');
    });
    client.close();
  });
  it('is refused for a mapping that there is not, and on Stage', async () => {
    const client = await TestClient.open(pumice.hubPort);
    client.tell({ kind: 'introduce', mapping: 'moon' });
    expect((await waitFor('the refusal', () => client.problems[0])).field).toBe('mapping');
    await pumice.post('/api/stage', { stage: true });
    await waitFor('the Stage', () => client.messages.some((message) => message.kind === 'rig' && message.stage));
    client.tell({ kind: 'introduce', mapping: 'fog' });
    await waitFor('the second refusal', () => client.problems.length === 2);
    await pumice.post('/api/stage', { stage: false });
    client.close();
  });
});

describe('undo and redo over HTTP', () => {
  it('are heard like any edit, and survive a restart', async () => {
    const before = await rig();
    await pumice.edit('fog', { on: false });
    const { answer } = await pumice.post('/api/rigs/night-ferry/undo', {});
    const stepped = answer as unknown as { undo: string | null; redo: string | null };
    expect([stepped.undo, stepped.redo]).toEqual([null, 'Fog density: on or off']);
    expect(await rig()).toEqual(before);
    surface.close();
    monitor.close();
    await pumice.killAll();
    await pumice.run();
    await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
    surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
    monitor = await Monitor.open(pumice.url);
    await pumice.post('/api/rigs/night-ferry/redo', {});
    expect((await rig()).mappings.find(({ id }) => id === 'fog')?.on).toBe(false);
    expect((await get<{ words: string }[]>('/api/rigs/night-ferry/history')).map(({ words }) => words)).toEqual(['Fog density: on or off']);
    await pumice.post('/api/rigs/night-ferry/undo', {});
  });
});

describe('rigs over HTTP', () => {
  it('are looked at before they are taken in, listed, and deleted', async () => {
    const document = await rig();
    document.name = 'Night Ferry 2';
    document.mappings[1]!.message = document.mappings[0]!.message;
    const { answer } = await pumice.post('/api/rigs/check', document);
    expect(answer).toMatchObject({ name: 'Night Ferry 2', counts: { mappings: document.mappings.length + document.voiceMappings.length } });
    expect((answer as unknown as { clashes: string[] }).clashes.length).toBeGreaterThan(0);
    expect(await get<unknown[]>('/api/rigs')).toHaveLength(1);
    const taken = (await pumice.post('/api/rigs', document)).answer as unknown as { id: string };
    expect((await get<{ name: string }[]>('/api/rigs')).map(({ name }) => name).sort()).toEqual(['Night Ferry', 'Night Ferry 2']);
    const removed = await fetch(`${pumice.url}/api/rigs/${taken.id}`, { method: 'DELETE' });
    expect([removed.status, ((await removed.json()) as RigDocument).name]).toEqual([200, 'Night Ferry 2']);
    expect((await fetch(`${pumice.url}/api/rigs/night-ferry`, { method: 'DELETE' })).status).toBe(400);
  });
});

describe('an edit on its way to the pages', () => {
  it('reaches the screens of the bench as the edit, with the window that made it; a surface hears that there is another revision', async () => {
    const client = await TestClient.open(pumice.hubPort);
    const edit = { kind: 'setMapping', mapping: 'fog', set: { name: 'Thick fog' } };
    const { answer } = await pumice.post('/api/rigs/night-ferry/edits', { edit, window: 'desk', number: 7 });
    const made = await waitFor('the edit', () => client.messages.flatMap((message) => (message.kind === 'edited' ? [message.made] : []))[0]);
    expect(made).toEqual(answer);
    expect(made).toMatchObject({ id: 'night-ferry', edit, by: { window: 'desk', number: 7 }, revision: (await pumice.health()).revision, undo: 'Thick fog: name' });
    await waitFor('the revision', () => surface.messages.some((message) => message.kind === 'rig' && message.revision === made.revision));
    expect(surface.messages.some(({ kind }) => kind === 'edited')).toBe(false);
    await pumice.post('/api/rigs/night-ferry/undo', {});
    const back = await waitFor('the edit that takes it back', () => client.messages.flatMap((message) => (message.kind === 'edited' ? [message.made] : []))[1]);
    expect(back).toMatchObject({ edit: { set: { name: 'Fog density' } }, redo: 'Fog density: name' });
    client.close();
  });
});

describe('two windows on one mapping', () => {
  const edit = (set: object, window: string, basedOn: number) => pumice.post('/api/rigs/night-ferry/edits', { edit: { kind: 'setMapping', mapping: 'swell', set }, window, basedOn });
  it('the later of two edits of one field is refused, of two fields both hold, and nothing is lost', async () => {
    const seen = (await get<{ revision: number }>('/api/rig')).revision;
    expect((await edit({ name: 'High swell' }, 'desk', seen)).status).toBe(200);
    const late = await edit({ name: 'Low swell' }, 'tablet', seen);
    expect(late.status).toBe(409);
    expect((late.answer.problem as unknown as { message: string }).message).toMatch(/^Changed a moment before, in another window or by Undo: High swell: name\./);
    expect((await edit({ on: false }, 'tablet', seen)).status).toBe(200);
    expect((await edit({ name: 'Higher swell' }, 'desk', seen)).status).toBe(200);
    expect((await rig()).mappings.find(({ id }) => id === 'swell')).toMatchObject({ name: 'Higher swell', on: false });
    expect((await edit({ name: 'Swell height', on: true }, 'tablet', seen + 3)).status).toBe(200);
  });
});

describe('scenes that are recalled while playing', () => {
  it('a gate of a surface recalls one; the pages are told which, what sends, and what was heard', async () => {
    const document = await rig();
    const scene = document.scenes.find(({ id }) => id === 'fog-bank')!;
    const unheard = document.mappings.find(({ name }) => name === 'Quay')!.id;
    const put = (to: object) => pumice.post('/api/rigs/night-ferry/edits', { edit: { kind: 'change', changes: [{ list: 'scenes', id: scene.id, to }] } });
    expect((await put({ ...scene, mappings: { rust: false }, messages: [{ output: 'weather', bytes: [0xc2, 4] }], recalledBy: { signal: 'wheelhouse.bell' } })).status).toBe(200);
    const client = await TestClient.open(pumice.hubPort);
    client.watch({ mappingStates: true });
    monitor.facts.length = 0;
    surface.move('wheelhouse.bell', 1);
    await waitFor('the program change of the scene', () => monitor.sent.includes('weather C2 04'));
    surface.move('wheelhouse.bell', 0);
    const told = await waitFor('the scene to be told', () => client.messages.findLast((message) => message.kind === 'mappingStates' && message.states.scene === 'fog-bank'));
    if (told.kind !== 'mappingStates') throw new Error('not told');
    expect(told.states.sends[client.mappingNumber('rust')]).toBe(false);
    expect(told.states.sends[client.mappingNumber('swell')]).toBe(true);
    await waitFor('the bell to be heard', () => {
      const latest = client.messages.findLast((message) => message.kind === 'mappingStates');
      return latest?.kind === 'mappingStates' && latest.states.heardMsAgo[client.mappingNumber('bell')]! >= 0 && latest.states.heardMsAgo[client.mappingNumber(unheard)] === -1;
    });
    expect((await put(scene)).status).toBe(200);
    client.close();
  });
  it('a program change that comes in recalls the scene of its number', async () => {
    const keys = await TestClient.open(pumice.hubPort);
    const { midi } = await keys.bring('keys', { kind: 'midi', report: 'keys', name: 'Harmonium' }, []);
    keys.midi(midi, 0xc0, 6);
    const program = await waitFor('the program as a signal', async () => (await rig()).signals.find(({ source }) => source === 'program 1'));
    const scene = (await rig()).scenes.find(({ id }) => id === 'landfall')!;
    const put = (to: object) => pumice.post('/api/rigs/night-ferry/edits', { edit: { kind: 'change', changes: [{ list: 'scenes', id: scene.id, to }] } });
    expect((await put({ ...scene, messages: [{ output: 'weather', bytes: [0xc2, 9] }], recalledBy: { signal: program.id, at: 5 } })).status).toBe(200);
    monitor.facts.length = 0;
    await waitFor('the message of the scene', () => {
      keys.midi(midi, 0xc0, 4);
      return monitor.sent.includes('weather C2 09');
    });
    expect((await put(scene)).status).toBe(200);
    keys.close();
  });
  it('a signal that there is not is refused with its place', async () => {
    const [scene] = (await rig()).scenes;
    const { status, answer } = await pumice.post('/api/rigs/night-ferry/edits', { edit: { kind: 'change', changes: [{ list: 'scenes', id: scene!.id, to: { ...scene, recalledBy: { signal: 'nobody.knows' } } }] } });
    expect([status, (answer.problem as unknown as { field: string }).field]).toEqual([400, 'scenes[0].recalledBy.signal']);
  });
});

describe('the library', () => {
  it('keeps shapings and kits by name across restarts, and refuses what is neither', async () => {
    const shaping = { smoothing: { kind: 'onePole', timeConstantMs: 90 } };
    expect((await pumice.post('/api/library', { kind: 'shaping', name: 'Calm', shaping })).answer).toMatchObject({ name: 'Calm' });
    expect((await pumice.post('/api/library', { kind: 'shaping', name: 'Calm', shaping })).answer).toMatchObject({ name: 'Calm 2' });
    expect((await pumice.post('/api/library', { kind: 'kit', name: 'All', kit: await rig() })).status).toBe(200);
    expect((await pumice.post('/api/library', { kind: 'kit', name: 'Broken', kit: { format: 'pumice-rig' } })).status).toBe(400);
    expect((await pumice.post('/api/library', { kind: 'shaping', name: 'Bad', shaping: { smoothing: { kind: 'magic' } } })).status).toBe(400);
    await pumice.killAll();
    await pumice.run();
    const kept = await get<{ id: string; name: string; kind: string; shaping?: object }[]>('/api/library');
    expect(kept.map(({ name, kind, shaping: content }) => [name, kind, content])).toEqual([
      ['All', 'kit', undefined],
      ['Calm', 'shaping', shaping],
      ['Calm 2', 'shaping', shaping],
    ]);
    const entry = await get<{ kit: RigDocument }>(`/api/library/${kept[0]!.id}`);
    expect(entry.kit).toEqual(await rig());
    expect((await fetch(`${pumice.url}/api/library/${kept[1]!.id}`, { method: 'DELETE' })).status).toBe(200);
    expect((await fetch(`${pumice.url}/api/library/${kept[1]!.id}`)).status).toBe(404);
  });
});

describe('a rig that travels', () => {
  it('sends the same bytes in an empty program', async () => {
    const other = await Pumice.fresh();
    await other.run();
    await waitFor('the other hub to have its rig', async () => (await other.health()).ok);
    try {
      const document = await rig();
      const fog = document.mappings.find(({ id }) => id === 'fog')!;
      const changed = { ...document, mappings: [{ ...fog, message: { kind: 'controlChange14', channel: 9, controller: 21, range: [16383, 0] } }, ...document.mappings.filter(({ id }) => id !== 'fog')] };
      const ids = [];
      for (const program of [pumice, other]) {
        const { answer } = await program.post('/api/rigs', changed);
        ids.push(answer.id as unknown as string);
        expect((await program.post(`/api/rigs/${ids.at(-1)}/open`, {})).status).toBe(200);
      }
      const taken = (await (await fetch(`${other.url}/api/rigs/${ids[1]}/document`)).json()) as unknown;
      expect(taken).toEqual(await get(`/api/rigs/${ids[0]}/document`));
      const heard = await Promise.all(
        [pumice, other].map(async (program) => {
          const [client, listening] = [await TestClient.open(program.hubPort, 'wheelhouse'), await Monitor.open(program.url)];
          for (const value of [0.1, 0.7, 0.333]) client.move('wheelhouse.fog', value);
          await waitFor('the last of it', () => listening.sent.some((line) => line.startsWith('weather B8 35')));
          client.move('wheelhouse.bell', 1);
          client.move('wheelhouse.bell', 0);
          await waitFor('the bell to end', () => listening.sent.some((line) => line.startsWith('bell-and-rigging 89')));
          client.close();
          listening.close();
          return listening.sent.filter((line) => /^(weather B8|bell-and-rigging [89]9)/.test(line));
        }),
      );
      expect(heard[0]!.length).toBeGreaterThan(4);
      expect(heard[1]).toEqual(heard[0]);
      await pumice.post('/api/rigs/night-ferry/open', {});
    } finally {
      await other.stop();
    }
  });
});
