import { request } from 'node:https';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CLOSED_NOT_JOINED, JOIN, type JoinCode, type Joining } from '../../src/protocol/devices';
import { TestClient } from '../helpers/client';
import { LAN_ADDRESS, Pumice, waitFor } from '../helpers/pumice';

let pumice: Pumice;

const call = async (path: string, method: string, body?: object): Promise<{ status: number; answer: unknown }> => {
  const response = await fetch(`${pumice.url}${path}`, { method, ...(body ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}) });
  return { status: response.status, answer: await response.json() };
};
const joining = async () => (await call('/api/joining', 'GET')).answer as Joining;
const newCode = async (surface: string | null = 'wheelhouse') => (await call('/api/joining/code', 'POST', { surface })).answer as JoinCode;

function tryCode(code: string, name = 'Tablet') {
  return fetch(`${pumice.lanUrl}/api/join`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ code, name, width: 1180, height: 820 }) });
}

async function join(name: string, surface: string | null = 'wheelhouse'): Promise<string> {
  const response = await tryCode((await newCode(surface)).code, name);
  expect(response.status).toBe(200);
  const cookie = response.headers.get('set-cookie')!;
  expect(cookie).toMatch(/HttpOnly; SameSite=Lax/);
  return cookie.split(';')[0]!;
}

const live = () => `ws://${LAN_ADDRESS}:${pumice.hubPort}/live`;
const get = (path: string, cookie?: string) => fetch(`${pumice.lanUrl}${path}`, { redirect: 'manual', ...(cookie ? { headers: { cookie } } : {}) });

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
  await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
});
afterAll(() => pumice?.stop());

describe('from the network', () => {
  it('nothing listens before it is switched on, and no code can be had', async () => {
    await expect(get('/join')).rejects.toThrow();
    expect((await call('/api/joining/code', 'POST', { surface: 'wheelhouse' })).status).toBe(400);
    const refused = TestClient.device(live(), null, 'wheelhouse');
    await waitFor('the hub to be out of reach', () => refused.closedWith !== null);
    expect(refused.messages).toEqual([]);
    expect(await call('/api/joining', 'PUT', { on: true })).toMatchObject({ status: 200, answer: { lan: true, addresses: [LAN_ADDRESS] } });
  });

  it('a device that has not joined sees nothing and sends nothing', async () => {
    expect((await get('/')).headers.get('location')).toBe('/join');
    for (const path of ['/api/rig', '/api/monitor', '/api/surfaces/wheelhouse', '/api/joining', '/api/health']) expect((await get(path)).status).toBe(403);
    expect((await fetch(`${pumice.lanUrl}/api/stage`, { method: 'POST', body: '{"stage":true}' })).status).toBe(403);
    expect((await get('/join')).status).toBe(200);
    for (const cookie of [null, 'pumice-device=made-up', 'pumice-device=']) {
      const client = TestClient.device(live(), cookie, 'wheelhouse');
      await waitFor('it to be closed', () => client.closedWith);
      expect(client).toMatchObject({ closedWith: CLOSED_NOT_JOINED, messages: [] });
    }
  });

  it('a name of its own making for this computer is refused, and so is a page of another site', async () => {
    const { get: plainGet } = await import('node:http');
    const status = (host: string) => new Promise((resolve) => plainGet({ host: LAN_ADDRESS, port: pumice.port, path: '/join', headers: { host } }, ({ statusCode }) => resolve(statusCode)));
    expect(await status(`${LAN_ADDRESS}:${pumice.port}`)).toBe(200);
    for (const host of [`localhost:${pumice.port}`, `evil.example:${pumice.port}`, `127.0.0.1:${pumice.port}`]) expect(await status(host)).toBe(403);
    const foreign = await fetch(`${pumice.lanUrl}/api/join`, { method: 'POST', headers: { origin: 'http://evil.example' }, body: '{}' });
    expect(foreign.status).toBe(403);
  });

  it('guesses are limited: for each device by the minute, for each code altogether', async () => {
    const { code } = await newCode();
    const wrong = code === '000000' ? '000001' : '000000';
    for (let i = 0; i < JOIN.triesPerMinute; i++) expect((await tryCode(wrong)).status).toBe(403);
    const limited = await tryCode(code);
    expect(limited.status).toBe(429);
    expect(((await limited.json()) as { problem: { message: string } }).problem.message).toMatch(/wait \d+ s/);
  });
});

describe('a joined device', () => {
  beforeAll(async () => {
    // The limit of the tries is forgotten with the process; what was switched on is not.
    await pumice.stop();
    await pumice.run();
    await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
    expect((await joining()).lan).toBe(true);
  });

  it('plays its own surface and nothing else', async () => {
    const cookie = await join('Left tablet');
    for (const path of ['/play/wheelhouse', '/api/surfaces/wheelhouse', '/play/wheelhouse/manifest.webmanifest', '/motion']) expect((await get(path, cookie)).status).toBe(200);
    expect((await get('/play/chart-table', cookie)).headers.get('location')).toBe('/play/wheelhouse');
    for (const path of ['/api/rig', '/api/surfaces/chart-table']) expect((await get(path, cookie)).status).toBe(403);

    const host = await TestClient.open(pumice.hubPort);
    host.watch({ signals: ['wheelhouse.fog'], activity: true });
    const client = TestClient.device(live(), cookie, 'wheelhouse');
    await waitFor('the welcome', () => client.messages.find(({ kind }) => kind === 'welcome'));
    client.move('wheelhouse.fog', 0.625);
    await waitFor('its value', () => host.values.get('wheelhouse.fog') === 0.625);
    const [device] = (await joining()).devices;
    await waitFor('the host to see it', () => host.messages.some((message) => message.kind === 'surfaces' && message.devices.includes(device!.id)));

    client.watch({ signals: ['wheelhouse.fog', 'gangway.1', 'deck-hand.left-x'], monitor: true, activity: true, inputs: true, mappingStates: true, captured: ['wheelhouse.fog'], raw: 'mooring' });
    client.tell({ kind: 'introduce', mapping: 'fog' });
    client.tell({ kind: 'holdBack', signals: ['wheelhouse.fog'] });
    client.tell({ kind: 'standIn', standIn: 'gangway', on: true });
    client.tell({ kind: 'knob', standIn: 'gangway', knob: 'x', value: 1 });
    await waitFor('four refusals', () => client.problems.filter(({ code }) => code === 'forbidden').length === 4);
    expect(client.messages.filter(({ kind }) => ['activity', 'surfaces', 'inputs', 'mappingStates', 'raw', 'introducing'].includes(kind))).toEqual([]);
    expect(client.captured).toEqual([]);
    client.close();
    host.close();
  });

  it('is given another surface, and told so', async () => {
    const cookie = await join('Right tablet');
    const client = TestClient.device(live(), cookie, 'wheelhouse');
    await waitFor('the welcome', () => client.messages.find(({ kind }) => kind === 'welcome'));
    const device = (await joining()).devices.find(({ name }) => name === 'Right tablet')!;
    expect((await call(`/api/devices/${device.id}`, 'PATCH', { surface: 'chart-table' })).status).toBe(200);
    await waitFor('the word', () => client.messages.find((message) => message.kind === 'given' && message.surface === 'chart-table'));
    expect((await get('/', cookie)).headers.get('location')).toBe('/play/chart-table');
    client.close();
  });

  it('is out at once when it is dropped, and what it held is let go of', async () => {
    const cookie = await join('Lost tablet');
    const host = await TestClient.open(pumice.hubPort);
    host.watch({ signals: ['wheelhouse.bell', 'wheelhouse.fog'] });
    const client = TestClient.device(live(), cookie, 'wheelhouse');
    await waitFor('the welcome', () => client.messages.find(({ kind }) => kind === 'welcome'));
    client.move('wheelhouse.bell', 1);
    await waitFor('the bell', () => host.values.get('wheelhouse.bell') === 1);
    const device = (await joining()).devices.find(({ name }) => name === 'Lost tablet')!;
    expect((await call(`/api/devices/${device.id}`, 'DELETE')).status).toBe(200);
    await waitFor('the close', () => client.closedWith === CLOSED_NOT_JOINED);
    await waitFor('the bell to end', () => host.values.get('wheelhouse.bell') === 0);
    expect((await get('/play/wheelhouse', cookie)).headers.get('location')).toBe('/join');
    const again = TestClient.device(live(), cookie, 'wheelhouse');
    await waitFor('it to be refused', () => again.closedWith === CLOSED_NOT_JOINED);
    expect((await call(`/api/devices/${device.id}`, 'DELETE')).status).toBe(404);
    host.close();
  });

  it('is known after a restart; two of one name are told apart; on Stage nobody joins; switched off, all are out', async () => {
    const cookie = await join('Left tablet');
    expect((await joining()).devices.map(({ name }) => name)).toContain('Left tablet 2');
    await pumice.killAll();
    await pumice.run();
    await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
    let client = TestClient.device(live(), cookie, 'wheelhouse');
    // As a page does: the doors of the network open when the hub was told who may come in.
    await waitFor('the welcome', () => {
      if (client.closedWith !== null) client = TestClient.device(live(), cookie, 'wheelhouse');
      return client.messages.find(({ kind }) => kind === 'welcome');
    });

    await pumice.post('/api/stage', { stage: true });
    expect((await call('/api/joining/code', 'POST', { surface: null })).status).toBe(423);
    expect((await call('/api/joining', 'PUT', { on: false })).status).toBe(423);
    await pumice.post('/api/stage', { stage: false });
    expect((await call('/api/joining', 'PUT', { on: false })).status).toBe(200);
    await waitFor('the line to end', () => client.closedWith !== null);
    await expect(get('/join')).rejects.toThrow();
  });
});

it('with --https pages and live line speak TLS with a certificate that a device can learn to trust', async () => {
  const secured = await Pumice.fresh(undefined, { PUMICE_HTTPS: '1' });
  try {
    await secured.run();
    await waitFor('the hub to have its rig', async () => (await secured.health()).ok);
    await fetch(`${secured.url}/api/joining`, { method: 'PUT', body: '{"on":true}' });
    const plain = (path: string) => fetch(`${secured.lanUrl}${path}`, { redirect: 'manual' });
    expect(await (await plain('/join?code=123456')).text()).toContain(`https://${LAN_ADDRESS}:${secured.port}/join?code=123456`);
    expect((await plain('/play/wheelhouse')).headers.get('location')).toBe('/join');
    const ca = await (await plain('/join/certificate')).text();
    expect(ca).toMatch(/^-----BEGIN CERTIFICATE-----/);

    const over = (path: string, method: string, body?: object) =>
      new Promise<{ status: number; cookie: string | undefined }>((resolve, reject) => {
        // Checked against that certificate alone, and by the address: what a device does that trusts it.
        const asked = request({ host: LAN_ADDRESS, port: secured.port, path, method, ca, headers: { 'content-type': 'application/json' } }, (response) => {
          response.resume();
          resolve({ status: response.statusCode!, cookie: response.headers['set-cookie']?.[0] });
        });
        asked.on('error', reject);
        asked.end(body && JSON.stringify(body));
      });
    expect((await over('/join', 'GET')).status).toBe(200);
    const code = (await (await fetch(`${secured.url}/api/joining/code`, { method: 'POST', body: '{"surface":"wheelhouse"}' })).json()) as JoinCode;
    const { status, cookie } = await over('/api/join', 'POST', { code: code.code, name: 'Phone', width: 390, height: 844 });
    expect(status).toBe(200);
    expect(cookie).toMatch(/; Secure/);
    const client = TestClient.device(`wss://${LAN_ADDRESS}:${secured.hubPort}/live`, cookie!.split(';')[0]!, 'wheelhouse', ca);
    await waitFor('the welcome', () => client.messages.find(({ kind }) => kind === 'welcome'));
    // The same token in the clear is nobody's.
    const clear = TestClient.device(`ws://${LAN_ADDRESS}:${secured.hubPort}/live`, cookie!.split(';')[0]!, 'wheelhouse');
    await waitFor('it to be closed', () => clear.closedWith === CLOSED_NOT_JOINED);
    // Its motion sensor is an input of the host.
    const host = await TestClient.open(secured.hubPort);
    host.watch({ inputs: true });
    const { sources } = await client.bring('lantern', { kind: 'motion', report: 'motion of device 1', name: 'Lantern' }, [{ key: 'tilt pitch', name: 'Forward', kind: 'continuous', unit: 'deg', range: [-90, 90] }]);
    client.say(sources[0]!, 30);
    await waitFor('the host to hear it', () => host.inputs?.feeds.find(({ name, state }) => name === 'Lantern' && state === 'live'));
    host.close();
    client.close();
  } finally {
    await secured.stop();
  }
});
