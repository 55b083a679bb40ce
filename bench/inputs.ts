import { fork, type ChildProcess } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { readFileSync } from 'node:fs';
import { testRig } from '../src/core/engine/testRig';
import type { RigDocument } from '../src/core/rig/document';
import { encodeOsc } from '../src/net/osc/codec';
import type { InputsState } from '../src/protocol/live';
import { TestClient } from '../test/helpers/client';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';

/**
 * OSC over UDP into the hub: how many messages a second without loss, the way from a datagram to a message out, and the
 * processor time of 1,000 signals at 100 Hz; each beside a bare loop that receives, decodes and writes three bytes.
 */
const RATES_HZ = [20_000, 35_000, 50_000, 65_000, 80_000];
const LASTS_MS = 3000;
const TRIPS = 3000;
const SIGNALS = 1000;
const SIGNALS_A_PACKET = 10;
const SIGNAL_RATE_HZ = 100;
/** Processor times are the median of so many turns of so long: of all that is compared one after another, for the machine is not always as quick. */
const CPU_TURNS = 7;
const CPU_MS = 2000;

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const answer = <T>(child: ChildProcess) => new Promise<T>((resolve) => child.once('message', (message) => resolve(message as T)));
const start = (file: string, ...args: (string | number)[]) => fork(`bench/${file}`, args.map(String), { execArgv: ['--import', 'tsx'] });

const figures: Figure[] = [];
const floor = start('oscFloor.ts');
const { port: floorPort } = await answer<{ port: number }>(floor);
const ask = (one: ChildProcess) => {
  const told = answer<{ received: number; cpuMs: number }>(one);
  one.send('count');
  return told;
};
const askFloor = () => ask(floor);

const pumice = await Pumice.fresh();
if ((await pumice.start()) !== null) throw new Error(pumice.output);
await waitFor('the hub', async () => (await pumice.health()).ok);
await openRig(benchRig());
const page = await TestClient.open(pumice.hubPort);
page.watch({ inputs: true });
const state = (): InputsState => page.inputs!;
/** Every flood comes from a socket of its own, which is counted from the start. */
const counted = () => state().feeds.find(({ name }) => name === 'Bench')?.count ?? 0;
await waitFor('the first state', () => page.inputs);

/** Sends at a rate to a port and gives how many packets went out, once the hub has taken in all that it will. */
async function flood(port: number, rateHz: number): Promise<number> {
  const { sent } = await answer<{ sent: number }>(start('oscSender.ts', port, rateHz, LASTS_MS));
  for (let before = -1; before !== counted(); ) {
    before = counted();
    await sleep(1500);
  }
  return sent;
}

await flood(floorPort, 20_000);
await flood(pumice.oscPort, 20_000);
await askFloor();
let best = 0;
let bestFloor = 0;
for (const rateHz of RATES_HZ) {
  const sent = await flood(pumice.oscPort, rateHz);
  const taken = counted();
  await askFloor();
  const sentToFloor = await flood(floorPort, rateHz);
  const { received } = await askFloor();
  const perS = (count: number) => (count * 1000) / LASTS_MS;
  const lost = 1 - taken / sent;
  if (lost <= 0) best = Math.max(best, perS(sent));
  if (received >= sentToFloor) bestFloor = Math.max(bestFloor, perS(sentToFloor));
  figures.push(figure(`lost of ${Math.round(perS(sent))} messages/s`, 100 * lost, '%', 100 * (1 - received / sentToFloor), rateHz === 65_000 ? aimAt(0) : null, 'lower'));
}
figures.push(figure('messages/s in to MIDI out without loss, highest tried', best, '1/s', bestFloor, aimAt(65_000), 'higher'));

/** Times from a datagram sent to the datagram that follows from it, in ms. */
async function trips(port: number, packet: (i: number) => Uint8Array, socket: ReturnType<typeof createSocket>): Promise<number[]> {
  const times: number[] = [];
  for (let i = 0; i < TRIPS; i++) {
    const startMs = performance.now();
    const back = new Promise<void>((resolve) => socket.once('message', () => resolve()));
    socket.send(packet(i), port, '127.0.0.1');
    await back;
    times.push(performance.now() - startMs);
    if (i % 10 === 0) await sleep(2);
  }
  return times;
}

const socket = createSocket('udp4');
await new Promise<void>((resolve) => socket.bind(0, '127.0.0.1', resolve));
await openRig(mirrorRig(socket.address().port));
const there = await trips(pumice.oscPort, (i) => encodeOsc('/trip/level', [{ type: 'f', value: i % 2 }]), socket);
const bare = await trips(floorPort, (i) => encodeOsc('/trip/level', [{ type: 'f', value: i % 2 }, { type: 'f', value: 0 }]), socket);
for (const share of [0.5, 0.99]) figures.push(figure(`datagram in to datagram out, p${share * 100}`, percentile(there, share), 'ms', percentile(bare, share), null, 'lower'));
socket.close();

await openRig(manyRig());
const { hub } = await pumice.health();
const hubCpuMs = () => {
  const fields = readFileSync(`/proc/${hub.pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
  return (Number(fields[11]) + Number(fields[12])) * 10;
};
async function many(port: number): Promise<void> {
  const sender = createSocket('udp4');
  const count = SIGNALS / SIGNALS_A_PACKET;
  const startMs = performance.now();
  for (let round = 0; performance.now() - startMs < CPU_MS; round++) {
    for (let p = 0; p < count; p++) {
      sender.send(encodeOsc(`/many/${p}`, Array.from({ length: SIGNALS_A_PACKET }, (_, i) => ({ type: 'f', value: ((round + i) % 50) / 50 }))), port, '127.0.0.1');
    }
    await sleep(Math.max(0, startMs + ((round + 1) * 1000) / SIGNAL_RATE_HZ - performance.now()));
  }
  sender.close();
}
// The hub asks the system to run it before others (`hub/priority`), and so finds fewer datagrams waiting: it is compared with a loop that does not,
// and with one that does.
const eager = start('oscFloor.ts', 'first');
const { port: eagerPort } = await answer<{ port: number }>(eager);
const compared = [
  { port: pumice.oscPort, cpuMs: () => Promise.resolve(hubCpuMs()), shares: [] as number[] },
  { port: floorPort, cpuMs: async () => (await askFloor()).cpuMs, shares: [] as number[] },
  { port: eagerPort, cpuMs: async () => (await ask(eager)).cpuMs, shares: [] as number[] },
];
for (const { port } of compared) await many(port);
for (let turn = 0; turn < CPU_TURNS; turn++) {
  for (const { port, cpuMs, shares } of compared) {
    const beforeMs = await cpuMs();
    await many(port);
    shares.push((100 * ((await cpuMs()) - beforeMs)) / CPU_MS);
  }
}
const [hubShare, floorShare, eagerShare] = compared.map(({ shares }) => percentile(shares, 0.5)) as [number, number, number];
figures.push(figure('processor, 1,000 signals x 100 Hz', hubShare, '% of a core', floorShare, aimAtRatio(3), 'lower'));
figures.push(figure('the same, beside a bare loop that comes first like the hub', hubShare, '% of a core', eagerShare, null, 'lower'));
const [first] = state().oscPorts;
figures.push(figure('receive buffer', first!.bufferBytes! / 1024, 'kB', first!.askedBufferBytes / 1024, aimAt(4096), 'higher'));

page.close();
await pumice.stop();
for (const one of [floor, eager]) one.disconnect();
report('inputs', figures);

async function openRig(rig: RigDocument): Promise<void> {
  const { answer: taken } = await pumice.post('/api/rigs', rig);
  const opened = await pumice.post(`/api/rigs/${(taken as unknown as { id: string }).id}/open`, {});
  if (opened.status !== 200) throw new Error(JSON.stringify(opened.answer));
  await sleep(300);
}

function oscRig(signals: { id: string; address: string; argument: number }[]): RigDocument {
  const rig = testRig(signals.slice(0, 1).map(({ id }) => ({ signal: id })));
  return {
    ...rig,
    inputs: [...rig.inputs, { id: 'sensor', name: 'Sensor', kind: 'osc' }],
    signals: [...rig.signals, ...signals.map(({ id, address, argument }) => ({ id, name: id, input: 'sensor', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number], osc: { address, argument } }))],
  };
}

function benchRig(): RigDocument {
  return oscRig([{ id: 'level', address: '/bench/level', argument: 0 }]);
}

function mirrorRig(port: number): RigDocument {
  const rig = oscRig([{ id: 'trip', address: '/trip/level', argument: 0 }]);
  rig.outputs.push({ id: 'back', name: 'Back', kind: 'osc', host: '127.0.0.1', port, receiver: 'weather' });
  rig.mappings[0] = { ...rig.mappings[0]!, output: 'back', message: { kind: 'osc', address: '/back', arguments: [{ type: 'f', value: 'value' }], range: [0, 1] } };
  return rig;
}

/** 1,000 signals, each with a smoothed mapping to a controller of its own. */
function manyRig(): RigDocument {
  const rig = oscRig(Array.from({ length: SIGNALS }, (_, i) => ({ id: `s${i}`, address: `/many/${Math.floor(i / SIGNALS_A_PACKET)}`, argument: i % SIGNALS_A_PACKET })));
  rig.mappings = Array.from({ length: SIGNALS }, (_, i) => ({
    ...rig.mappings[0]!,
    id: `m${i}`,
    signal: `s${i}`,
    shaping: { smoothing: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 } },
    message: { kind: 'controlChange', channel: 1 + (i % 16), controller: Math.floor(i / 16), range: [0, 127] },
  }));
  return rig;
}
