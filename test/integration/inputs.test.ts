import { execFileSync, spawn } from 'node:child_process';
import { createSocket, type Socket } from 'node:dgram';
import { existsSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RigDocument } from '../../src/core/rig/document';
import { gamepadSources } from '../../src/core/inputs/gamepadSources';
import { encodeOsc } from '../../src/net/osc/codec';
import type { InputSettings } from '../../src/protocol/inputSettings';
import { Monitor } from '../helpers/monitor';
import { TestClient } from '../helpers/client';
import { Pumice, waitFor } from '../helpers/pumice';

let pumice: Pumice;
let client: TestClient;
let monitor: Monitor;
const hasOscTools = existsSync('/usr/bin/oscsend') && existsSync('/usr/bin/oscdump');

beforeAll(async () => {
  pumice = await Pumice.fresh();
  if ((await pumice.start()) !== null) throw new Error(pumice.output);
  await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
  await open();
}, 60_000);
afterAll(async () => {
  client.close();
  monitor.close();
  await pumice.stop();
});

async function open(): Promise<void> {
  client = await TestClient.open(pumice.hubPort);
  client.watch({ inputs: true });
  monitor = await Monitor.open(pumice.url);
}

const rig = async (): Promise<RigDocument> => ((await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: RigDocument }).document;
const put = async (set: Partial<InputSettings>) => {
  const now = (await (await fetch(`${pumice.url}/api/settings/inputs`)).json()) as InputSettings;
  const response = await fetch(`${pumice.url}/api/settings/inputs`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ ...now, ...set }) });
  return { status: response.status, answer: (await response.json()) as { problem?: { field: string; message: string } } };
};
const edit = (what: object) => pumice.post('/api/rigs/night-ferry/edits', { edit: what });
const device = (name: string) => client.inputs?.feeds.find((one) => one.name === name);

async function speak(work: (send: (packet: Uint8Array) => Promise<void>, socket: Socket) => Promise<void>, port = pumice.oscPort): Promise<void> {
  const socket = createSocket('udp4');
  const send = (packet: Uint8Array) => new Promise<void>((resolve, reject) => socket.send(packet, port, '127.0.0.1', (error) => (error ? reject(error) : resolve())));
  await work(send, socket);
  socket.close();
}
const float = (address: string, ...values: number[]) => encodeOsc(address, values.map((value) => ({ type: 'f', value })));
/** `oscsend` from liblo-tools: an OSC sender that knows nothing of this project. */
const oscsend = (...args: string[]) => execFileSync('oscsend', ['localhost', String(pumice.oscPort), ...args]);

describe('OSC', () => {
  it('an address that nobody knows becomes an input with a signal for each argument', async () => {
    await speak(async (send) => send(float('/buoy/wave', 0.25, 3)));
    const found = await waitFor('the signals', async () => {
      const signals = (await rig()).signals.filter(({ input }) => input === 'buoy');
      return signals.length === 2 ? signals : null;
    });
    expect(found.map(({ name, osc, range }) => [name, osc, range])).toEqual([
      ['Wave', { address: '/buoy/wave', argument: 0 }, [0, 1]],
      ['Wave 2', { address: '/buoy/wave', argument: 1 }, [0, 10]],
    ]);
    await waitFor('its state', () => device('Buoy')?.input === 'buoy' && device('Buoy')!.count >= 1);
  });
  it('is not taken up while "listen for new" is off, but said to be there', async () => {
    await put({ listening: false });
    await speak(async (send) => send(float('/noise/floor', 1)));
    await waitFor('it to be named as unknown', () => device('Noise')?.unknown === 1);
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect((await rig()).inputs.some(({ name }) => name === 'Noise')).toBe(false);
    await put({ listening: true });
  });
  it('falls silent and says so; on another socket it is the same input with its calibration', async () => {
    await edit({ kind: 'setInput', input: 'buoy', set: { name: 'Channel buoy' } });
    const [wave] = (await rig()).signals.filter(({ input }) => input === 'buoy');
    await edit({ kind: 'setSignal', signal: wave!.id, set: { calibration: { travel: { lo: 0, hi: 0.5 } } } });
    await waitFor('silence', () => device('Buoy')?.state === 'silent');
    client.watch({ inputs: true, signals: [wave!.id] });
    await speak(async (send) => send(float('/buoy/wave', 0.25)));
    await waitFor('the calibrated value', () => client.values.get(wave!.id) === 0.5);
    expect((await rig()).inputs.filter(({ id }) => id.startsWith('buoy'))).toHaveLength(1);
    await waitFor('it to be live again', () => client.inputs?.feeds.some((one) => one.input === 'buoy' && one.state === 'live'));
  });
  it('one that takes a new socket for every message is one input', async () => {
    for (let i = 0; i < 6; i++) await speak(async (send) => send(float('/script/level', i / 8)));
    await waitFor('it', async () => (await rig()).inputs.some(({ id }) => id === 'script'));
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect((await rig()).inputs.filter(({ id }) => id.startsWith('script'))).toHaveLength(1);
  });
  it('two alike at the same time are two inputs, and can be swapped', async () => {
    let running = true;
    const chatter = (value: number) => speak(async (send) => {
      while (running) {
        await send(float('/twin/level', value));
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    });
    const both = [chatter(0.25), chatter(0.75)];
    const twins = await waitFor('two inputs', async () => {
      const { inputs, signals } = await rig();
      const found = inputs.filter(({ id }) => id.startsWith('twin'));
      return found.length === 2 && signals.filter(({ id }) => id.startsWith('twin')).length === 2 && found;
    });
    const [one, two] = (await rig()).signals.filter(({ id }) => id.startsWith('twin')).map(({ id }) => id) as [string, string];
    client.watch({ inputs: true, signals: [one, two] });
    await waitFor('both values', () => client.values.has(one) && client.values.has(two));
    const before = client.values.get(one)!;
    const [a, b] = twins as unknown as [Record<string, unknown>, Record<string, unknown>];
    await edit({ kind: 'change', changes: [{ list: 'inputs', id: a.id, to: { ...a, device: b.device } }, { list: 'inputs', id: b.id, to: { ...b, device: a.device } }] });
    await waitFor('the values to be swapped', () => client.values.get(one) === 1 - before && client.values.get(two) === before);
    running = false;
    await Promise.all(both);
  });
  it('broken packets, deep bundles, strings and NaN are counted or listed, and nothing else suffers', async () => {
    let deep = float('/deep', 1);
    for (let i = 0; i < 100; i++) {
      const size = new Uint8Array(4);
      new DataView(size.buffer).setUint32(0, deep.length);
      deep = Uint8Array.from([...Buffer.from('#bundle\0'), 0, 0, 0, 0, 0, 0, 0, 1, ...size, ...deep]);
    }
    client.watch({ inputs: true, raw: 'buoy' });
    await new Promise((resolve) => setTimeout(resolve, 100));
    await speak(async (send) => {
      for (const packet of [Uint8Array.of(1, 2, 3), deep, Buffer.from('/buoy/wave\0\0,f\0\0')]) await send(packet);
      await send(encodeOsc('/buoy/name', [{ type: 's', value: 'fog' }]));
      await send(float('/buoy/wave', NaN, 7));
    });
    await waitFor('three broken ones', () => client.inputs!.leftOut.broken === 3);
    await waitFor('the raw messages', () => client.raw.includes('/buoy/name "fog"') && client.raw.includes('/buoy/wave NaN 7'));
    expect((await rig()).signals.some(({ osc }) => osc?.address === '/buoy/name')).toBe(false);
  });
  it('rules ignore and group by address pattern', async () => {
    await put({ oscRules: [{ pattern: '/rail/heartbeat', action: 'ignore' }, { pattern: '/rail*/*', action: 'group', name: 'Railing' }] });
    await speak(async (send) => {
      await send(float('/rail/heartbeat', 1));
      await send(float('/rail/a', 1));
      await send(float('/rail2/b', 1));
    });
    await waitFor('both under one input', async () => (await rig()).signals.filter(({ input }) => input === 'railing').length === 2);
    await waitFor('the ignored one to be counted', () => client.inputs!.leftOut.ignored > 0);
    expect((await rig()).signals.some(({ osc }) => osc?.address === '/rail/heartbeat')).toBe(false);
  });
  it('listens on several ports; one that is taken says so and the others go on', async () => {
    const taken = createSocket('udp4');
    await new Promise<void>((resolve) => taken.bind(0, '127.0.0.1', resolve));
    const busy = taken.address().port;
    const free = createSocket('udp4');
    await new Promise<void>((resolve) => free.bind(0, '127.0.0.1', resolve));
    const second = free.address().port;
    await new Promise<void>((resolve) => free.close(() => resolve()));
    await put({ oscPorts: [pumice.oscPort, second, busy] });
    await waitFor('the states', () => client.inputs!.oscPorts.length === 3 && client.inputs!.oscPorts[2]!.problem?.includes('in use by another program'));
    await speak(async (send) => send(float('/second/port', 1)), second);
    await waitFor('what came in there', async () => (await rig()).inputs.some(({ id }) => id === 'second'));
    await put({ oscPorts: [pumice.oscPort] });
    taken.close();
  });
  it.each([
    [{ oscPorts: [] }, 'oscPorts'],
    [{ oscPorts: [80] }, 'oscPorts[0]'],
    [{ oscSenders: ['lighthouse'] }, 'oscSenders[0]'],
    [{ oscRules: [{ pattern: 'rail', action: 'ignore' as const }] }, 'oscRules[0].pattern'],
  ])('%j is refused, naming the field', async (set, field) => {
    const { status, answer } = await put(set);
    expect([status, answer.problem?.field]).toEqual([400, field]);
  });
  it('drives every control and scene by the addresses that are described over HTTP', async () => {
    const described = (await (await fetch(`${pumice.url}/api/osc/pumice/surface/wheelhouse/fog/value`)).json()) as Record<string, unknown>;
    expect(described).toMatchObject({ FULL_PATH: '/pumice/surface/wheelhouse/fog/value', TYPE: 'f', ACCESS: 3, RANGE: [{ MIN: 0, MAX: 1 }] });
    expect((await fetch(`${pumice.url}/api/osc/pumice/surface/moon`)).status).toBe(404);
    await speak(async (send) => send(float('/pumice/surface/wheelhouse/fog/value', 0.5)));
    await waitFor('the fog', () => monitor.sent.includes('weather B2 15 40'));
    await speak(async (send) => send(float('/pumice/surface/wheelhouse/f?g/value', 1)));
    await waitFor('the fog by a pattern', () => monitor.sent.includes('weather B2 15 7F'));
    const before = monitor.facts.length;
    await speak(async (send) => send(encodeOsc('/pumice/scene/harbour', [])));
    await waitFor('the scene', () => monitor.facts.length > before);
  });
  it('a bundle for later is played when it says', async () => {
    await speak(async (send) => {
      const message = float('/pumice/surface/wheelhouse/swell/value', 0.77);
      const head = Buffer.alloc(20);
      head.write('#bundle\0', 'latin1');
      const atS = Date.now() / 1000 + 0.4;
      head.writeUInt32BE(Math.floor(atS) + 2_208_988_800, 8);
      head.writeUInt32BE(Math.floor((atS % 1) * 2 ** 32), 12);
      head.writeUInt32BE(message.length, 16);
      const before = monitor.facts.length;
      await send(Buffer.concat([head, message]));
      const fact = await waitFor('the swell', () => monitor.facts.slice(before).find(({ direction }) => direction === 'in'));
      expect(fact.timeMs / 1000).toBeGreaterThan(atS - 0.05);
    });
  });
  it.skipIf(!hasOscTools)('hears what an independent sender says, of every type', async () => {
    oscsend('/independent/all', 'ifdhsTFNcm', '3', '0.5', '0.25', '9', 'fog', 'x', '90407f00');
    const signals = await waitFor('the numbers among it', async () => {
      const found = (await rig()).signals.filter(({ input }) => input === 'independent');
      return found.length === 6 ? found : null;
    });
    expect(signals.map(({ osc, kind }) => [osc!.argument, kind])).toEqual([[0, 'continuous'], [1, 'continuous'], [2, 'continuous'], [3, 'continuous'], [5, 'gate'], [6, 'gate']]);
  });
  it.skipIf(!hasOscTools)('is heard by an independent listener', async () => {
    const probe = createSocket('udp4');
    await new Promise<void>((resolve) => probe.bind(0, '127.0.0.1', resolve));
    const { port } = probe.address();
    await new Promise<void>((resolve) => probe.close(() => resolve()));
    const dump = spawn('oscdump', ['-L', String(port)]);
    let heard = '';
    dump.stdout.on('data', (data: Buffer) => (heard += String(data)));
    const { addMirror } = await import('../../src/core/rig/addMirror');
    await edit({ kind: 'change', changes: addMirror(await rig(), 'wheelhouse.fog', { host: '127.0.0.1', port, address: '/out/fog' })! });
    const surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
    let value = 0.1;
    await waitFor('oscdump to print it', () => {
      surface.move('wheelhouse.fog', (value = 0.9 - value));
      return /\/out\/fog f 0\.[18]/.test(heard);
    });
    dump.kill();
    surface.close();
  });
});

describe('a gamepad of a page', () => {
  const pad = { kind: 'gamepad', report: 'pad of the deck', name: 'Deck hand' } as const;
  it('sounds at once, and what it holds is let go of when its page leaves', async () => {
    const bringer = await TestClient.open(pumice.hubPort);
    const { sources } = await bringer.bring('gamepad 0', pad, gamepadSources(4, 17));
    bringer.say(sources[0]!, 0.3);
    await waitFor('its mappings', async () => (await rig()).mappings.some(({ signal }) => signal === 'deck-hand.button-3'));
    await waitFor('the button to sound', () => {
      bringer.say(sources[4 + 3]!, 0);
      bringer.say(sources[4 + 3]!, 1);
      return monitor.sent.some((line) => line.endsWith('90 40 60'));
    });
    const before = monitor.sent.length;
    bringer.socket.terminate();
    await waitFor('the end of the note', () => monitor.sent.slice(before).some((line) => line.endsWith('80 40 40')));
    await waitFor('it to be gone', () => device('Deck hand')?.state === 'gone');
  });
  it('is the same input after a restart, with its name and mappings', async () => {
    await edit({ kind: 'setInput', input: 'deck-hand', set: { name: 'Bosun' } });
    const { mappings } = await rig();
    client.close();
    monitor.close();
    await pumice.killAll();
    await pumice.run();
    await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
    await open();
    const { sources } = await client.bring('gamepad 3', pad, gamepadSources(4, 17));
    client.watch({ inputs: true, signals: ['deck-hand.axis-0'] });
    client.say(sources[0]!, 0.5);
    await waitFor('its input to be live', () => client.inputs?.feeds.some(({ input, state }) => input === 'deck-hand' && state === 'live'));
    expect((await rig()).mappings).toEqual(mappings);
    expect((await rig()).inputs.find(({ id }) => id === 'deck-hand')?.name).toBe('Bosun');
  });
  it('a second one alike is an input of its own', async () => {
    const { sources } = await client.bring('gamepad 4', pad, gamepadSources(4, 17));
    client.say(sources[0]!, 0.5);
    await waitFor('the second', async () => (await rig()).inputs.filter(({ kind }) => kind === 'gamepad').length === 2);
  });
  it('a held-back signal moves nothing until it is let go of', async () => {
    const second = await TestClient.open(pumice.hubPort, 'wheelhouse');
    client.tell({ kind: 'holdBack', signals: ['wheelhouse.fog'] });
    client.watch({ inputs: true, captured: ['wheelhouse.fog'] });
    await waitFor('the number to be held back', () => {
      second.move('wheelhouse.fog', 0.123);
      return client.captured.some(({ signal }) => signal === 'wheelhouse.fog');
    });
    expect(monitor.sent).not.toContain('weather B2 15 10');
    client.tell({ kind: 'holdBack', signals: [] });
    await waitFor('the fog', () => {
      second.move('wheelhouse.fog', 0.123);
      return monitor.sent.includes('weather B2 15 10');
    });
    second.close();
  });
  it.each([
    ['a source of nobody', (at: TestClient) => at.say(60_000, 1), 'samples[0].signal'],
    ['MIDI of no feed', (at: TestClient) => at.midi(99, 0x90, 60, 1), 'feed'],
    ['a stand-in that there is not', (at: TestClient) => at.tell({ kind: 'standIn', standIn: 'kraken', on: true }), 'standIn'],
    ['a feed of a kind that clients have not', (at: TestClient) => at.socket.send('{"kind":"feed","feed":"x","report":{"kind":"osc","report":"x","name":"x"},"sources":[]}'), 'report.kind'],
  ])('%s is refused, naming the field', async (_, send, field) => {
    const at = await TestClient.open(pumice.hubPort);
    send(at);
    expect((await waitFor('the refusal', () => at.problems[0])).field).toBe(field);
    at.close();
  });
});

describe('MIDI in', () => {
  it('becomes signals, goes through where it should, and ends what went through', async () => {
    const player = await TestClient.open(pumice.hubPort);
    const { midi } = await player.bring('keys', { kind: 'midi', report: 'keys', name: 'Harmonium' }, []);
    player.midi(midi, 0xb0, 1, 64, 0x21, 5);
    await waitFor('the wheel as one of 14 bits', async () => (await rig()).signals.some(({ source }) => source === 'cc14 1 1'));
    await edit({ kind: 'setInput', input: 'harmonium', set: { thru: { output: 'hull-song', channels: [1], kinds: ['notes'] } } });
    // Running status, a real-time byte inside, and another channel that does not go through.
    await waitFor('the note to go through', () => {
      player.midi(midi, 0x91, 50, 90, 0x90, 62, 0xf8, 100);
      return monitor.sent.includes('hull-song 90 3E 64');
    });
    expect(monitor.sent).not.toContain('hull-song 91 32 5A');
    const before = monitor.sent.length;
    player.socket.terminate();
    await waitFor('its end', () => monitor.sent.slice(before).includes('hull-song 80 3E 40'));
  });
});

describe('recordings', () => {
  const take = async (text: string) => {
    const response = await fetch(`${pumice.url}/api/recordings?name=Rope`, { method: 'POST', headers: { 'content-type': 'text/plain' }, body: text });
    return { status: response.status, answer: (await response.json()) as { id: string; samples: number; badLines: number; problems: { line: number; message: string }[]; problem?: { message: string }; signals: never[]; name: string } };
  };
  it('a file plays as an input, again and again, and its broken lines are named', async () => {
    const { status, answer } = await take('time,signal,value\n0,stretch,0\n50,stretch,1\nfog\n100,stretch,0\n120,stretch,zero\n');
    expect([status, answer.samples]).toEqual([200, 3]);
    expect(answer.problems.map(({ line }) => line)).toEqual([4, 6]);
    const { addRecording } = await import('../../src/core/inputs/addRecording');
    await edit({ kind: 'change', changes: addRecording(await rig(), answer) });
    client.watch({ inputs: true, captured: ['rope.stretch'] });
    await waitFor('it to have gone round twice', () => client.captured.filter(({ signal, value }) => signal === 'rope.stretch' && value === 1).length >= 2);
  });
  it('a file without one good line is refused in one sentence', async () => {
    const { status, answer } = await take('nothing here');
    expect([status, answer.problem?.message]).toEqual([400, 'No line of "Rope" holds a time, a signal and a value; line 1: its time is not a number of milliseconds.']);
  });
});

describe('stand-ins', () => {
  it.each([
    ['mooring', 'Mooring'],
    ['gangway', 'Gangway'],
    ['deck-hand', 'Deck hand'],
    ['lantern', 'Lantern'],
    ['harmonium', 'Harmonium'],
  ])('%s starts, moves by itself, and stops', async (id, name) => {
    client.tell({ kind: 'standIn', standIn: id, on: true });
    await waitFor('it to be live', () => client.inputs?.feeds.some((one) => one.name === name && one.state === 'live'));
    client.tell({ kind: 'standIn', standIn: id, on: false });
    await waitFor('it to be off', () => client.inputs?.standIns.find((one) => one.id === id)?.on === false);
  });
  it('moves by hand', async () => {
    client.watch({ inputs: true, signals: ['mooring.stretch'] });
    client.tell({ kind: 'standIn', standIn: 'mooring', on: true, settings: { byItself: false, noise: 0, drift: 0 } });
    client.tell({ kind: 'knob', standIn: 'mooring', knob: 'stretch', value: 0.625 });
    await waitFor('the stretch', () => client.values.get('mooring.stretch') === 0.625);
    client.tell({ kind: 'standIn', standIn: 'mooring', on: false });
  });
  it('four lamps keep their identities as light points', async () => {
    const { addLightPoints } = await import('../../src/core/inputs/lightPoints');
    await edit({ kind: 'change', changes: addLightPoints(await rig(), '/lamps/points', 'rest') });
    client.watch({ inputs: true, signals: ['light-points.1-x', 'light-points.2-x', 'light-points.3-x', 'light-points.4-x'] });
    client.tell({ kind: 'standIn', standIn: 'lamps', on: true, settings: { byItself: false, noise: 0, faults: 0 } });
    const across = await waitFor('all four', () => {
      const found = [1, 2, 3, 4].flatMap((n) => client.values.get(`light-points.${n}-x`) ?? []);
      return new Set(found).size === 4 ? found : null;
    });
    client.values.clear();
    await new Promise((resolve) => setTimeout(resolve, 300));
    // At rest each stays itself, although they arrive in any order.
    [1, 2, 3, 4].forEach((n, i) => expect(client.values.get(`light-points.${n}-x`) ?? across[i]).toBe(across[i]));
    client.tell({ kind: 'standIn', standIn: 'lamps', on: false });
  });
});
