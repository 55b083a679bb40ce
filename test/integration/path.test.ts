import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { encodeSamples } from '../../src/protocol/frames';
import { LIMITS } from '../../src/protocol/limits';
import { LIVE_VERSION, type ToClient } from '../../src/protocol/live';
import { Monitor } from '../helpers/monitor';
import { TestClient } from '../helpers/client';
import { Pumice, waitFor } from '../helpers/pumice';

let pumice: Pumice;
let monitor: Monitor;
let client: TestClient;

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
  await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
  monitor = await Monitor.open(pumice.url);
  client = await TestClient.open(pumice.hubPort, 'wheelhouse');
});
afterAll(async () => {
  monitor?.close();
  client?.close();
  await pumice?.stop();
});

describe('from a finger to a byte', () => {
  it('the fader Fog at 0.685 leaves as CC 21 = 87 on channel 3, with all that the monitor says of it', async () => {
    client.move('wheelhouse.fog', 0.685);
    const out = await waitFor('the message', () => monitor.facts.find((fact) => fact.direction === 'out'));
    expect(out).toEqual({ timeMs: expect.any(Number), direction: 'out', output: 'weather', message: 'channel 3 · CC 21 · 87', bytes: 'B2 15 57', who: 'mapping', mapping: 'fog' });
    expect(Math.abs(out.timeMs - Date.now())).toBeLessThan(5000);
    const entered = monitor.facts.find((fact) => fact.direction === 'in')!;
    expect(entered).toEqual({ timeMs: expect.any(Number), direction: 'in', input: 'wheelhouse', signal: 'wheelhouse.fog', value: expect.closeTo(0.685, 5) });
  });
  it('an edit is heard at once on the new address', async () => {
    client.move('wheelhouse.rust', 1);
    const { status } = await pumice.edit('rust', { message: { kind: 'controlChange', channel: 7, controller: 40, range: [0, 100] } });
    expect(status).toBe(200);
    await waitFor('the value at its new address', () => monitor.sent.includes('engine-room B6 28 64'));
  });
  it('smoothing goes on after the last sample until the value has arrived', async () => {
    client.move('wheelhouse.swell', 0);
    client.move('wheelhouse.swell', 1);
    await waitFor('the end of the movement', () => monitor.sent.includes('weather B2 16 7F'));
    expect(monitor.sent.filter((line) => line.startsWith('weather B2 16')).length).toBeGreaterThan(20);
  });
  it('another page follows, and one that opens later is shown the value', async () => {
    const follower = await TestClient.open(pumice.hubPort, 'wheelhouse');
    follower.watch({ signals: ['wheelhouse.lamp'] });
    client.move('wheelhouse.lamp', 0.5);
    await waitFor('the follower to follow', () => follower.values.get('wheelhouse.lamp') === 0.5);
    const late = await TestClient.open(pumice.hubPort);
    late.watch({ signals: ['wheelhouse.lamp'] });
    await waitFor('the late page to be told', () => late.values.get('wheelhouse.lamp') === 0.5);
    follower.close();
    late.close();
  });
  it('a page that says hello only after the rig was edited is told all names with its welcome', async () => {
    const socket = new WebSocket(`ws://127.0.0.1:${pumice.hubPort}/live`, { perMessageDeflate: false });
    const told: ToClient[] = [];
    socket.on('message', (data, isBinary) => void (isBinary || told.push(JSON.parse(String(data)) as ToClient)));
    await new Promise((resolve) => socket.once('open', resolve));
    expect((await pumice.edit('rust', { name: 'Rust, late' })).status).toBe(200);
    socket.send(JSON.stringify({ kind: 'hello', version: LIVE_VERSION, surface: 'wheelhouse' }));
    const welcome = await waitFor('its welcome', () => told.find((message) => message.kind === 'welcome'));
    expect([told.some(({ kind }) => kind === 'names' || kind === 'rig' || kind === 'edited'), welcome.names.signals.some(([, id]) => id === 'wheelhouse.fog')]).toEqual([false, true]);
    socket.close();
  });
  it('a page that goes away with a button down has it released', async () => {
    const leaving = await TestClient.open(pumice.hubPort, 'wheelhouse');
    leaving.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => monitor.sent.includes('bell-and-rigging 99 2B 70'));
    leaving.socket.terminate();
    await waitFor('the end of the horn', () => monitor.sent.includes('bell-and-rigging 89 2B 40'));
  });
});

describe('bad input on the live line', () => {
  it.each<[string, (at: TestClient) => void, string, RegExp]>([
    ['bytes that are no frame', (at) => at.socket.send(Buffer.from([9, 9])), 'kind', /samples, sources, MIDI and voices only/],
    ['a frame cut short', (at) => at.socket.send(Buffer.from(encodeSamples(1, 0, [{ signal: 0, value: 1 }])).subarray(0, 20)), 'count', /has 24 bytes, found 20/],
    ['an unknown signal', (at) => at.socket.send(encodeSamples(1, 0, [{ signal: 60_000, value: 1 }])), 'samples[0].signal', /no control with the signal number 60000/],
    ['a signal of another surface', (at) => at.move('chart-table.tide', 1), 'samples[0].signal', /no control with the signal chart-table.tide/],
    ['NaN', (at) => at.move('wheelhouse.fog', NaN), 'samples[0].value', /wheelhouse.fog must be a finite number/],
    ['infinity', (at) => at.move('wheelhouse.fog', Infinity), 'samples[0].value', /finite/],
    ['text that is not JSON', (at) => at.socket.send('{'), 'frame', /must be JSON/],
    ['an unknown message', (at) => at.socket.send('{"kind":"dance"}'), 'kind', /must be one of/],
    ['another version', (at) => at.socket.send('{"kind":"hello","version":99}'), 'version', /reload the page/],
  ])('%s is refused, naming the field; nothing leaves and the hub lives', async (_, send, field, message) => {
    const before = monitor.facts.length;
    const sender = await TestClient.open(pumice.hubPort, 'wheelhouse');
    send(sender);
    const problem = await waitFor('the refusal', () => sender.problems[0]);
    expect(problem.field).toBe(field);
    expect(problem.message).toMatch(message);
    expect(monitor.facts.length).toBe(before);
    await waitFor('the log to say it', () => pumice.output.includes(problem.message.slice(0, 20)));
    sender.close();
  });
  it('a frame larger than the limit closes that line and no other', async () => {
    const sender = await TestClient.open(pumice.hubPort, 'wheelhouse');
    sender.socket.send(Buffer.alloc(LIMITS.liveFrameBytes + 1));
    await waitFor('the line to be closed', () => sender.closedWith === 1009);
    client.move('wheelhouse.fog', 0.25);
    await waitFor('others to play on', () => monitor.sent.includes('weather B2 15 20'));
  });
  it('a flood of bad frames is cut off', async () => {
    const sender = await TestClient.open(pumice.hubPort, 'wheelhouse');
    for (let i = 0; i < LIMITS.badFramesPerTenSeconds + 5; i++) sender.socket.send(Buffer.from([9]));
    await waitFor('the line to be closed', () => sender.closedWith === 1008);
  });
  it('a page of a stranger is not let in', async () => {
    const stranger = new WebSocket(`ws://127.0.0.1:${pumice.hubPort}/live`, { origin: 'http://stranger.example' });
    await expect(new Promise((resolve, reject) => stranger.once('open', resolve).once('error', reject))).rejects.toThrow('403');
    const link = new WebSocket(`ws://127.0.0.1:${pumice.hubPort}/link`, { headers: { 'x-pumice-link': 'guess' } });
    await expect(new Promise((resolve, reject) => link.once('open', resolve).once('error', reject))).rejects.toThrow('403');
  });
});

describe('bad input to the web process', () => {
  const edits = '/api/rigs/night-ferry/edits';
  it.each<[string, string, unknown, number, string]>([
    ['a body that is not JSON', edits, '{"edit":', 400, 'body'],
    ['a body of the wrong shape', edits, { edits: [] }, 400, 'edit'],
    ['a channel of 17', edits, { edit: { kind: 'setMapping', mapping: 'fog', set: { message: { kind: 'controlChange', channel: 17, controller: 1, range: [0, 127] } } } }, 400, 'edit.set.message.channel'],
    ['a mapping that does not exist', edits, { edit: { kind: 'setMapping', mapping: 'anchor', set: { on: true } } }, 404, 'edit.mapping'],
    ['an output that does not exist', edits, { edit: { kind: 'setMapping', mapping: 'fog', set: { output: 'moon' } } }, 400, 'mappings[0].output'],
    ['a rig that does not exist', '/api/rigs/day-ferry/edits', { edit: { kind: 'setRig', set: { tempoBpm: 90 } } }, 404, 'id'],
    ['a body of 5 MB', edits, `{"x":"${'x'.repeat(5_000_000)}"}`, 413, 'body'],
    ['a stage that is neither', '/api/stage', { stage: 'maybe' }, 400, 'stage'],
  ])('%s is refused, naming the field, and nothing changes', async (_, path, body, status, field) => {
    const { revision } = await pumice.health();
    const refused = await pumice.post(path, body);
    const { problem } = refused.answer as unknown as { problem: { field: string; message: string } };
    expect([refused.status, problem.field]).toEqual([status, field]);
    expect(problem.message).toMatch(/\S/);
    expect((await pumice.health()).revision).toBe(revision);
  });
  it('a request for another host, or from a page of a stranger, is refused', async () => {
    const status = (options: object) =>
      new Promise((resolve) => request({ host: '127.0.0.1', port: pumice.port, ...options }, (response) => resolve(response.statusCode)).end());
    expect(await status({ path: '/api/rig', headers: { host: 'rebound.example' } })).toBe(403);
    expect(await status({ path: '/api/monitor', headers: { host: `192.168.1.2:${pumice.port}` } })).toBe(403);
    expect(await status({ method: 'POST', path: '/api/stage', headers: { origin: 'http://stranger.example' } })).toBe(403);
  });
  it('on Stage every edit is refused', async () => {
    await pumice.post('/api/stage', { stage: true });
    const { status, answer } = await pumice.edit('fog', { on: false });
    expect([status, (answer as unknown as { problem: { code: string } }).problem.code]).toEqual([423, 'locked']);
    await pumice.post('/api/stage', { stage: false });
  });
});
