import { nightFerry } from '../../src/server/demo/nightFerry';
import { kill, waitFor, type Pumice } from './pumice';

/**
 * Makes a program that has run before as good as new, in a tenth of what a start costs: the demo rig and nothing beside
 * it, nothing kept, nobody joined, the Bench, and a hub that has heard nothing yet.
 */
export async function renew(pumice: Pumice): Promise<void> {
  const ask = async <T>(method: string, path: string, body?: object): Promise<T> => {
    const response = await fetch(`${pumice.url}${path}`, { method, ...(body && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }) });
    if (!response.ok) throw new Error(`${method} ${path} was answered with ${response.status}: ${await response.text()}`);
    return response.json() as Promise<T>;
  };
  await ask('POST', '/api/stage', { stage: false });
  const rig = await ask<{ id: string }>('POST', '/api/rigs', nightFerry());
  await ask('POST', `/api/rigs/${rig.id}/open`);
  for (const { id } of await ask<{ id: string }[]>('GET', '/api/rigs')) if (id !== rig.id) await ask('DELETE', `/api/rigs/${id}`);
  for (const { id } of await ask<{ id: string }[]>('GET', '/api/library')) await ask('DELETE', `/api/library/${id}`);
  const { devices } = await ask<{ devices: { id: string }[] }>('GET', '/api/joining');
  for (const { id } of devices) await ask('DELETE', `/api/devices/${id}`);
  await ask('PUT', '/api/joining', { on: false });
  await ask('DELETE', '/api/takes/playing');
  for (const { name, id, state } of await ask<{ id: string; name: string; state: string }[]>('GET', '/api/takes')) if (state !== 'recording' && !DEMO_TAKES.includes(name)) await ask('DELETE', `/api/takes/${id}`);
  for (const [path, settings] of Object.entries(await initialSettings(pumice))) await ask('PUT', path, settings);
  const { hub } = await pumice.health();
  kill(hub.pid);
  await waitFor('a new hub', async () => (({ ok, hub: { pid } }) => ok && pid !== hub.pid)(await pumice.health()));
  pumice.rig = rig.id;
}

/** They come with the program; a journey leaves them as they are. */
const DEMO_TAKES = ['Crossing', 'Foghorn'];

const SETTINGS = ['/api/settings/inputs', '/api/settings/network', '/api/settings/listening', '/api/settings/recording', '/api/settings/recipes'];
const initial = new WeakMap<Pumice, Record<string, object>>();

/** The settings that a program started with, by where they are; to be asked for before anybody changes them. */
export async function initialSettings(pumice: Pumice): Promise<Record<string, object>> {
  if (!initial.has(pumice)) initial.set(pumice, Object.fromEntries(await Promise.all(SETTINGS.map(async (path) => [path, (await (await fetch(`${pumice.url}${path}`)).json()) as object]))));
  return initial.get(pumice)!;
}
