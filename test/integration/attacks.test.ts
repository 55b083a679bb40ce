import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RigDocument } from '../../src/core/rig/document';
import { CLOSED_NOT_JOINED, DEVICE_COOKIE, type JoinCode, type JoinedDevice } from '../../src/protocol/devices';
import { encodeMidi, encodeSamples } from '../../src/protocol/frames';
import { LIMITS } from '../../src/protocol/limits';
import { Monitor } from '../helpers/monitor';
import { TestClient } from '../helpers/client';
import { LAN_ADDRESS, Pumice, waitFor } from '../helpers/pumice';

/** What a guest of the network who means ill may try, and what a rig may weigh; each is answered, and playing goes on. */
let pumice: Pumice;
let host: TestClient;
let monitor: Monitor;

/** So that this process, whose other line is the host's, is not silent during a flood. */
const breath = () => new Promise((resolve) => setImmediate(resolve));

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
  await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
  expect((await call('/api/joining', 'PUT', { on: true })).status).toBe(200);
  host = await TestClient.open(pumice.hubPort, 'wheelhouse');
  monitor = await Monitor.open(pumice.url);
});
afterAll(async () => {
  host.close();
  monitor.close();
  await pumice.stop();
});

const call = (path: string, method: string, body: unknown) => fetch(`${pumice.url}${path}`, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const rig = async () => (await (await fetch(`${pumice.url}/api/rigs/night-ferry/document`)).json()) as RigDocument;
const live = () => `ws://${LAN_ADDRESS}:${pumice.hubPort}/live`;

/** Lets a device in, with its cookie. */
async function joined(name: string): Promise<{ cookie: string; id: string }> {
  const { code } = (await (await call('/api/joining/code', 'POST', { surface: 'wheelhouse' })).json()) as JoinCode;
  const answer = await fetch(`${pumice.lanUrl}/api/join`, { method: 'POST', body: JSON.stringify({ code, name, width: 800, height: 600 }) });
  expect(answer.status).toBe(200);
  const { devices } = (await (await fetch(`${pumice.url}/api/joining`)).json()) as { devices: JoinedDevice[] };
  return { cookie: answer.headers.get('set-cookie')!.split(';')[0]!, id: devices.find((device) => device.name === name)!.id };
}

/** The status of the answer to a request to join; null where the line was closed on what was still to be said, and the answer lost with it. */
function posted(body: string): Promise<number | null> {
  return new Promise((resolve, reject) => {
    const asked = request({ host: LAN_ADDRESS, port: pumice.port, path: '/api/join', method: 'POST', agent: false }, ({ statusCode }) => resolve(statusCode!));
    asked.on('error', (error: NodeJS.ErrnoException) => (error.code === 'EPIPE' || error.code === 'ECONNRESET' ? undefined : reject(error)));
    asked.on('close', () => resolve(null));
    asked.end(body);
  });
}

async function deviceLine(cookie: string): Promise<TestClient> {
  const client = TestClient.device(live(), cookie, 'wheelhouse');
  await waitFor('the welcome', () => client.messages.find(({ kind }) => kind === 'welcome'));
  return client;
}

/** The host still plays: a finger of this computer becomes a message. */
async function stillPlays(): Promise<void> {
  // This process, busy with what it attacks with, may itself have been silent for too long.
  if (host.closedWith !== null) host = await TestClient.open(pumice.hubPort, 'wheelhouse');
  const before = monitor.sent.length;
  let step = 0;
  await waitFor('the host to play on', () => {
    host.move('wheelhouse.engine', (step++ % 100) / 100);
    return monitor.sent.length > before;
  });
}

describe('a joined device that lies', () => {
  it('brings no gamepad, keyboard or MIDI, and sends no raw bytes', async () => {
    const { cookie } = await joined('Liar');
    const client = await deviceLine(cookie);
    for (const kind of ['gamepad', 'midi', 'computer'] as const) client.tell({ kind: 'feed', feed: `my ${kind}`, report: { kind, report: 'x', name: 'Mine' }, sources: [] });
    await waitFor('three refusals', () => client.problems.filter(({ field }) => field === 'report.kind').length === 3);
    client.socket.send(encodeMidi(0, 0, [0x90, 60, 100]));
    await waitFor('the bytes to be refused', () => client.problems.some(({ code }) => code === 'malformed-frame'));
    expect((await rig()).inputs.some(({ name }) => name === 'Mine')).toBe(false);
    client.close();
  });

  it('that repeats what a sensor of the host says of itself is another input', async () => {
    const report = { kind: 'motion' as const, report: 'motion of the host', name: 'Lantern' };
    const sources = [{ key: 'tilt pitch', name: 'Forward', kind: 'continuous' as const, unit: 'deg' as const, range: [-90, 90] as [number, number] }];
    const bench = await TestClient.open(pumice.hubPort);
    const own = await bench.bring('lantern', report, sources);
    await waitFor('the input of the host', async () => {
      bench.say(own.sources[0]!, 10);
      return (await rig()).inputs.find((input) => input.kind === 'motion' && input.device.report === report.report);
    });
    bench.socket.terminate();
    const { cookie } = await joined('Pretender');
    const client = await deviceLine(cookie);
    const other = await client.bring('lantern', report, sources);
    await waitFor('an input of its own', async () => {
      client.say(other.sources[0]!, 77);
      return (await rig()).inputs.filter(({ kind }) => kind === 'motion').length === 2;
    });
    expect(monitor.facts.some((fact) => fact.direction === 'in' && fact.input === 'lantern' && fact.value === 77)).toBe(false);
    client.close();
  });

  it('is told the names of its surface alone, and none by way of refusals', async () => {
    const { cookie } = await joined('Curious');
    const client = await deviceLine(cookie);
    const told = client.messages.flatMap((message) => ('names' in message ? [...message.names.signals, ...message.names.mappings, ...message.names.outputs] : []));
    expect(told.length).toBeGreaterThan(10);
    expect(told.filter(([, id]) => !id.startsWith('wheelhouse.'))).toEqual([]);
    const foreign = host.numberOf('chart-table.swell') >= 0 ? host.numberOf('chart-table.swell') : 60_000;
    for (let number = 0; number < 120; number++) client.socket.send(encodeSamples(1, 0, [{ signal: number, value: NaN }, { signal: foreign, value: 0 }]));
    await waitFor('refusals', () => client.problems.length >= 60);
    expect(client.problems.filter(({ message }) => /chart-table|mooring/.test(message))).toEqual([]);
    client.close();
  });

  it('plays a surface no more from the moment that it is taken from it', async () => {
    const { cookie, id } = await joined('Former');
    const client = await deviceLine(cookie);
    host.watch({ signals: ['wheelhouse.bell', 'wheelhouse.fog'] });
    client.move('wheelhouse.bell', 1);
    await waitFor('the bell', () => host.values.get('wheelhouse.bell') === 1);
    await call(`/api/devices/${id}`, 'PATCH', { surface: null });
    await waitFor('the word', () => client.messages.some((message) => message.kind === 'given' && message.surface === null));
    await waitFor('what it held to be let go of', () => host.values.get('wheelhouse.bell') === 0);
    client.move('wheelhouse.fog', 0.4321);
    await waitFor('the refusal', () => client.problems.some(({ code }) => code === 'unknown-signal'));
    expect(host.values.get('wheelhouse.fog')).not.toBeCloseTo(0.4321, 4);
    client.close();
  });

  it('that says more than can be played holds nothing any more: its lift may be among what is left out', async () => {
    const { cookie } = await joined('Hasty');
    const client = await deviceLine(cookie);
    host.watch({ signals: ['wheelhouse.bell'] });
    client.move('wheelhouse.bell', 1);
    await waitFor('the bell', () => host.values.get('wheelhouse.bell') === 1);
    const tooFast = () => client.problems.some(({ code }) => code === 'too-many');
    for (let round = 1; !tooFast(); round++) {
      for (let i = 0; i < LIMITS.framesPerSecond.device + 100; i++) {
        client.move('wheelhouse.fog', (i % 100) / 100);
        if (i % 500 === 0) await breath();
      }
      client.tell({ kind: 'ping', pageTimeMs: round });
      await waitFor('the round to be heard', () => client.messages.some((message) => message.kind === 'pong' && message.pageTimeMs === round));
    }
    expect(client.closedWith).toBeNull();
    await waitFor('what it held to be let go of', () => host.values.get('wheelhouse.bell') === 0);
    client.close();
  });

  it('takes a few lines and no more, and leaves room for the host', async () => {
    const { cookie } = await joined('Greedy');
    const clients = Array.from({ length: 12 }, () => TestClient.device(live(), cookie, 'wheelhouse'));
    await waitFor('all to be answered', () => clients.every((client) => client.closedWith !== null || client.messages.some(({ kind }) => kind === 'welcome')));
    expect(clients.filter((client) => client.messages.some(({ kind }) => kind === 'welcome'))).toHaveLength(LIMITS.sessionsPerDevice);
    const another = await TestClient.open(pumice.hubPort);
    another.close();
    for (const client of clients) client.close();
  });

  it('that brings and takes a device away without end is slowed or out, while the host plays on', async () => {
    const { cookie } = await joined('Restless');
    const client = await deviceLine(cookie);
    const flood = async () => {
      for (let i = 0; i < 100 && client.closedWith === null; i++) {
        if (i % 10 === 0) await breath();
        client.tell({ kind: 'feed', feed: `m${i}`, report: { kind: 'motion', report: `m${i}`, name: 'M' }, sources: Array.from({ length: 64 }, (_, s) => ({ key: `s${s}`, name: `S${s}`, kind: 'continuous', unit: 'unit', range: [0, 1] })) });
        client.tell({ kind: 'feedGone', feed: `m${i}` });
      }
    };
    await waitFor('it to be told', async () => {
      await flood();
      return client.problems.some(({ code }) => code === 'too-many') || client.closedWith !== null;
    });
    expect(host.closedWith).toBeNull();
    await stillPlays();
    client.close();
  });
});

describe('a stranger', () => {
  it('is counted and measured before anything that it says is looked at', async () => {
    const body = `{${Array.from({ length: 300_000 }, (_, i) => `"f${i}":1`).join(',')}}`;
    const statuses: number[] = [];
    await waitFor('eight answers', async () => {
      const status = await posted(body);
      return status !== null && statuses.push(status) === 8;
    });
    expect(new Set(statuses)).toEqual(new Set([413, 429]));
    expect(statuses.at(-1)).toBe(429);
    await stillPlays();
  });
  it('with a token of nobody is closed at once', async () => {
    const client = TestClient.device(live(), `${DEVICE_COOKIE}=nobody`, 'wheelhouse');
    await waitFor('the close', () => client.closedWith === CLOSED_NOT_JOINED);
  });
});

describe('weight', () => {
  it.each([300_000, 1_300_000])('a rig of %i empty mappings is refused in one sentence', async (count) => {
    const empty = { ...(await rig()), mappings: [] as object[] };
    const body = JSON.stringify(empty).replace('"mappings":[]', `"mappings":[${'{},'.repeat(count - 1)}{}]`);
    const { status, answer } = await pumice.post('/api/rigs', body);
    const { problem } = answer as unknown as { problem: { message: string } };
    expect([status, problem.message]).toEqual([413, `A rig has room for ${LIMITS.mappings} mappings, and here are ${count}: take out what is not needed.`]);
    await stillPlays();
  });
  it('a rig of thousands of mappings is taken in, or refused at the one that is wrong, and edits go on meanwhile', async () => {
    const whole = await rig();
    const mappings = Array.from({ length: 4000 }, (_, i) => ({ ...whole.mappings[i % whole.mappings.length]!, id: `m-${i}` })).filter(({ message }) => message.kind !== 'polyPressure');
    const asked = [mappings, mappings.with(-1, { ...mappings.at(-1)!, signal: 'gone' })].map((list) => pumice.post('/api/rigs', { ...whole, mappings: list, scenes: [] }));
    expect((await pumice.edit('fog', { name: 'Thick fog' })).status).toBe(200);
    const [good, bad] = await Promise.all(asked);
    expect([good!.status, bad!.status]).toEqual([200, 400]);
    expect((bad!.answer as unknown as { problem: { field: string } }).problem.field).toBe(`mappings[${mappings.length - 1}].signal`);
    await stillPlays();
  });
  it('a rig with thousands of mistakes is refused with the first fifty', async () => {
    const broken = { ...(await rig()), mappings: Array.from({ length: 4000 }, () => ({})) };
    const { status, answer } = await pumice.post('/api/rigs', broken);
    expect([status, (answer as unknown as { problems: unknown[] }).problems.length]).toEqual([400, LIMITS.problems]);
  });
  it('no edits make a rig that the hub cannot take: what would be too large is refused, and a restart heals all', async () => {
    const fresh = await Pumice.fresh();
    await fresh.run();
    await waitFor('the hub to have its rig', async () => (await fresh.health()).ok);
    const mapping = ((await (await fetch(`${fresh.url}/api/rigs/night-ferry/document`)).json()) as RigDocument).mappings[0]!;
    const statuses: number[] = [];
    for (let part = 0; part < 6; part++) {
      const changes = Array.from({ length: 900 }, (_, i) => ({ list: 'mappings', id: `heavy-${part}-${i}`, to: { ...mapping, id: `heavy-${part}-${i}`, remark: 'x'.repeat(1990) } }));
      statuses.push((await fresh.post('/api/rigs/night-ferry/edits', { edit: { kind: 'change', changes } })).status);
    }
    expect(new Set(statuses)).toEqual(new Set([200, 413]));
    const before = await waitFor('the hub to have all of it', async () => {
      const health = await fresh.health();
      return health.ok ? health : null;
    });
    const client = await TestClient.open(fresh.hubPort, 'wheelhouse');
    await waitFor('the last of the names', () => client.mappingNumber(`heavy-${statuses.lastIndexOf(200)}-899`) >= 0);
    // A list to watch that no single frame could hold as ids.
    const ids = Array.from({ length: statuses.filter((status) => status === 200).length * 900 }, (_, i) => `heavy-${Math.floor(i / 900)}-${i % 900}`);
    client.watch({ mappings: ids });
    client.move('wheelhouse.fog', 0.5);
    client.tell({ kind: 'ping', pageTimeMs: 1 });
    await waitFor('the answer', () => client.messages.some(({ kind }) => kind === 'pong'));
    expect([client.closedWith, (await fresh.health()).hub.pid]).toEqual([null, before.hub.pid]);
    await fresh.killAll();
    await fresh.run();
    await waitFor('the heavy rig to play', async () => (await fresh.health()).ok);
    client.close();
    await fresh.stop();
  });
  it('a message of more than 255 bytes is whole in the monitor, and so is what follows it', async () => {
    const text = 'x'.repeat(190);
    const output = { id: 'far', name: 'Far', kind: 'osc', host: '127.0.0.1', port: 9, receiver: 'weather' };
    const mapping = { ...(await rig()).mappings[0]!, id: 'long', name: 'Long', output: 'far', signal: 'wheelhouse.lamp', message: { kind: 'osc', address: '/long', arguments: [{ type: 's', value: text }, { type: 's', value: `${text}y` }, { type: 'f', value: 'value' }], range: [0, 1] }, shaping: {} };
    const { status } = await pumice.post('/api/rigs/night-ferry/edits', { edit: { kind: 'change', changes: [{ list: 'outputs', id: 'far', to: output }, { list: 'mappings', id: 'long', to: mapping }] } });
    expect(status).toBe(200);
    const hex = Buffer.from(`${text}y`).toString('hex').toUpperCase().replace(/../g, '$& ').trim();
    let step = 0;
    await waitFor('the long message', () => {
      host.move('wheelhouse.lamp', (step++ % 50) / 50);
      return monitor.sent.some((sent) => sent.startsWith('far 2F ') && sent.includes(hex));
    });
    await stillPlays();
  });
});
