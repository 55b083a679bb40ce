import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RigScene } from '../../src/core/rig/document';
import { TestClient } from '../helpers/client';
import { LAN_ADDRESS, Pumice, waitFor } from '../helpers/pumice';
import { withForedeck } from '../helpers/surfaces';

const FRAME = { x: 0, y: 0, width: 100, height: 100 };

let pumice: Pumice;

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
  await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
  await withForedeck(pumice, [{ kind: 'push', frame: FRAME }, { kind: 'fader', frame: FRAME }, { kind: 'scene', frame: FRAME, set: { scene: 'harbour' } }], ['Port', 'Starboard']);
});
afterAll(() => pumice?.stop());

const turns = (client: TestClient) => client.messages.flatMap((message) => (message.kind === 'page' ? [message] : []));

describe('a surface', () => {
  it('is turned to a bank by a gate, on every page that shows it, and on those that come later', async () => {
    const scene: RigScene = { id: 'starboard', name: 'Starboard', mappings: {}, pages: {}, banks: { foredeck: 1 }, values: {}, messages: [], glideMs: 0, recalledBy: { signal: 'foredeck.button' } };
    await pumice.post('/api/rigs/night-ferry/edits', { edit: { kind: 'change', changes: [{ list: 'scenes', id: scene.id, to: scene }] } });
    const client = await TestClient.open(pumice.hubPort, 'foredeck');
    const other = await TestClient.open(pumice.hubPort, 'wheelhouse');
    await waitFor('the scene to be there', () => client.messages.some(({ kind }) => kind === 'rig' || kind === 'welcome'));
    client.move('foredeck.button', 1);
    await waitFor('the bank', () => turns(client).at(-1)?.turned.bank?.to === 1);
    expect(turns(other)).toEqual([]);
    const late = await TestClient.open(pumice.hubPort, 'foredeck');
    await waitFor('it for a page that came later', () => turns(late).at(-1)?.turned.bank?.to === 1);
    for (const each of [client, other, late]) each.close();
  });

  it('loads no more scripts than a browser asks for at a time, each of them read while it arrives', async () => {
    const html = await (await fetch(`${pumice.url}/play/foredeck`)).text();
    const scripts = [...html.matchAll(/<script src="([^"]+)"([^>]*)>/g)].flatMap(([, source, rest]) => (rest!.includes('noModule') ? [] : [source!]));
    expect(scripts.length).toBeGreaterThan(0);
    expect(scripts.length).toBeLessThanOrEqual(6);
    for (const source of scripts) expect(await (await fetch(`${pumice.url}${source}`)).text(), source).toMatch(/^\/\/# allFunctionsCalledOnLoad\n/);
  });

  it('is told apart: a page gets the one that it asks for and no more of the rig; what is not there is said', async () => {
    const { surface, captions, scales, played, ...rest } = (await (await fetch(`${pumice.url}/api/surfaces/foredeck`)).json()) as Record<string, { id?: string }>;
    expect([surface!.id, typeof captions, typeof scales, typeof played, Object.keys(rest)]).toEqual(['foredeck', 'object', 'object', 'string', ['stage']]);
    expect((await fetch(`${pumice.url}/api/surfaces/nowhere`)).status).toBe(404);
  });

  it('is tried from the bench while that is wanted, and what is held then is let go of', async () => {
    const bench = await TestClient.open(pumice.hubPort);
    bench.watch({ signals: ['foredeck.button'] });
    bench.move('foredeck.fader', 0.5);
    await waitFor('the refusal', () => bench.problems.some(({ code }) => code === 'unknown-signal'));
    bench.tell({ kind: 'try', surface: 'foredeck' });
    bench.move('foredeck.button', 1);
    const host = await TestClient.open(pumice.hubPort);
    host.watch({ signals: ['foredeck.button'] });
    await waitFor('it to be held', () => host.values.get('foredeck.button') === 1);
    bench.tell({ kind: 'try', surface: null });
    await waitFor('it to be let go', () => host.values.get('foredeck.button') === 0);
    bench.close();
    host.close();
  });

  it('of a joined device recalls the scenes that it has buttons for, and no others', async () => {
    await fetch(`${pumice.url}/api/joining`, { method: 'PUT', body: '{"on":true}' });
    const { answer } = await pumice.post('/api/joining/code', { surface: 'foredeck' });
    const joined = await fetch(`${pumice.lanUrl}/api/join`, { method: 'POST', body: JSON.stringify({ code: (answer as unknown as { code: string }).code, name: 'Tablet', width: 400, height: 400 }) });
    const cookie = joined.headers.get('set-cookie')!.split(';')[0]!;
    const host = await TestClient.open(pumice.hubPort);
    host.watch({ mappingStates: true });
    const scene = () => host.messages.findLast((message) => message.kind === 'mappingStates')?.states.scene;
    const client = TestClient.device(`ws://${LAN_ADDRESS}:${pumice.hubPort}/live`, cookie, 'foredeck');
    await waitFor('the welcome', () => client.messages.some(({ kind }) => kind === 'welcome'));
    client.tell({ kind: 'recall', scene: 'landfall' });
    await waitFor('the refusal', () => client.problems.some(({ code }) => code === 'forbidden'));
    client.tell({ kind: 'try', surface: 'wheelhouse' });
    await waitFor('another', () => client.problems.length === 2);
    client.tell({ kind: 'recall', scene: 'harbour' });
    await waitFor('the scene', () => scene() === 'harbour');
    host.close();
    client.close();
  });
});
