import { createRequire } from 'node:module';
import { join } from 'node:path';
import type { RigDocument, RigMapping } from '../src/core/rig/document';
import type { NetworkSettings } from '../src/protocol/networkSettings';
import { anything, FAIR, instrument, lossyLine } from '../test/helpers/lossyLine';
import { NetworkPeer } from '../test/helpers/networkPeer';
import { hasMidiSystem, MidiPeer, MidiSystem, PROGRAM } from '../test/helpers/midiSystem';
import { TestClient } from '../test/helpers/client';
import { freePair, LAN_ADDRESS, Pumice, waitFor } from '../test/helpers/pumice';
import { atRate, sleep } from './pace';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';

/**
 * From a finger to the other end of a native port, beside the same port written to by nobody but this program, where a MIDI system can
 * be installed (see `bin/setup/nativePorts`; `npm test` does). Network MIDI where packets are lost, doubled and late: whether the other end has the same state at the end, and what the
 * journals cost; and sixteen outputs at 500 messages a second each, over real sockets.
 */
const MESSAGES = 20_000;
const OUTPUTS = 16;
const RATE_HZ = 500;
const LASTS_MS = 10_000;

const PORT_MESSAGES = 400;
const PORT_TURNS = 5;
/** A program that has just begun is still being compiled. */
const SETTLE_MS = 5000;

const figures: Figure[] = [];

/** Milliseconds from sending a controller until the other end has printed it, one after another. */
async function untilPrinted(peer: MidiPeer, send: (value: number) => void): Promise<number[]> {
  const times: number[] = [];
  for (let i = 0; i < PORT_MESSAGES; i++) {
    const value = 1 + (i % 126);
    const end = ` ${value.toString(16).toUpperCase().padStart(2, '0')}`;
    const beganMs = performance.now();
    await new Promise<void>((resolve) => {
      peer.onLine = (line) => line.startsWith('B2 15') && line.endsWith(end) && resolve();
      send(value);
    });
    times.push(performance.now() - beganMs);
    await sleep(8);
  }
  return times.slice(20);
}

/** A port that is written to by this process itself. */
interface BarePort {
  openPortByName(name: string): boolean;
  sendMessage(bytes: number[]): void;
  closePort(): void;
}

async function nativePort(): Promise<void> {
  const system = new MidiSystem('pumice-bench');
  await system.start();
  const horn = await MidiPeer.open(system, 'Horn');
  Object.assign(process.env, system.env);
  const { Output } = createRequire(join(PROGRAM, 'ports.js'))('@julusian/midi') as { Output: new () => BarePort };
  const bare = new Output();
  bare.openPortByName('Horn in:in');

  const pumice = await system.pumice();
  await pumice.run();
  const page = await TestClient.open(pumice.hubPort);
  page.watch({ outputStates: true });
  await pumice.give({ kind: 'change', changes: [{ list: 'outputs', id: 'weather', to: { id: 'weather', name: 'Weather', receiver: 'weather', kind: 'port', device: { report: 'Horn in:in', slot: 1 } } }] });
  await waitFor('the port', () => page.messages.some((message) => message.kind === 'outputs' && message.outputs.outputs.some(({ id, away }) => id === 'weather' && away === null)));
  const surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
  await sleep(SETTLE_MS);
  const [floor, played]: [number[], number[]] = [[], []];
  // In turns: what the machine does besides changes from one minute to the next.
  for (let turn = 0; turn < PORT_TURNS; turn++) {
    floor.push(...(await untilPrinted(horn, (value) => bare.sendMessage([0xb2, 0x15, value]))));
    played.push(...(await untilPrinted(horn, (value) => surface.move('wheelhouse.fog', value / 127))));
  }
  bare.closePort();
  for (const share of [0.5, 0.99]) figures.push(figure(`finger to the other end of a native port, p${100 * share}`, percentile(played, share), 'ms', percentile(floor, share), share === 0.99 ? aimAtRatio(2) : null, 'lower'));
  surface.close();
  page.close();
  await pumice.stop();
  await horn.end();
  await system.stop();
}

if (hasMidiSystem) await nativePort();
else console.log('The native port is left out: there is no MIDI system here; npm test builds one where it may.');

for (const loss of [0.01, 0.05, 0.2]) {
  const { host, guest, heard, run, chance, setWeather } = lossyLine({ ...FAIR }, 1);
  run(20);
  setWeather({ loss, reorder: 0.05, twice: 0.05 });
  const said: Uint8Array[] = [];
  let hostMs = 0;
  while (said.length < MESSAGES) {
    const group = anything(chance);
    said.push(...group);
    const beganMs = performance.now();
    host.send([group], 1000);
    hostMs += performance.now() - beganMs;
    run(1 + Math.floor(3 * chance()));
  }
  run(8000);
  const [here, there] = [instrument(said), instrument(heard.guest.map(({ bytes }) => bytes))];
  const keys = new Set([...Object.keys(here.held), ...Object.keys(there.held)]);
  const name = `RTP-MIDI at ${100 * loss} % loss`;
  const { packets, bytes, journalBytes } = host.sender.written;
  figures.push(
    figure(`${name}: notes that hang`, there.sounding.filter((note) => !here.sounding.includes(note)).length, 'notes', null, aimAt(0), 'lower'),
    figure(`${name}: values that differ`, [...keys].filter((key) => here.held[key] !== there.held[key]).length, 'values', null, aimAt(0), 'lower'),
    figure(`${name}: packets that were missing`, guest.receiver.counts.lost, 'packets', null, null, 'lower'),
    figure(`${name}: journal`, journalBytes / packets, 'bytes a packet', (bytes - journalBytes) / packets, null, 'lower'),
    figure(`${name}: sending`, (1000 * hostMs) / said.length, 'us a message', null, null, 'lower'),
  );
}

const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);
const rig = ((await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: RigDocument }).document;
const peers: NetworkPeer[] = [];
for (let i = 0; i < OUTPUTS; i++) peers.push(await NetworkPeer.open(`Lamp ${i}`, await freePair()));
const settings: NetworkSettings = { on: true, sessions: [{ name: 'Pumice', port: pumice.midiPort }], known: [], invited: peers.map(({ name, port }) => ({ session: 'Pumice', name, at: { address: LAN_ADDRESS, port } })) };
await fetch(`${pumice.url}/api/settings/network`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(settings) });
const fader = { kind: 'fader' as const, label: '' };
const all: RigDocument = {
  ...rig,
  name: 'Sixteen lamps',
  inputs: [{ id: 'deck', name: 'Deck', kind: 'surface', surface: 'deck' }],
  signals: peers.flatMap((_, i) => [
    { id: `f${i}`, name: `F ${i}`, input: 'deck', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number] },
    { id: `f${i}.touch`, name: `F ${i} touch`, input: 'deck', kind: 'gate' as const, unit: 'unit' as const, range: [0, 1] as [number, number] },
  ]),
  derived: [],
  streams: [],
  voiceMappings: [],
  members: [],
  scenes: [],
  receivers: [{ id: 'lamp', name: 'Lamp', about: '', bendRangeSemitones: 2 }],
  outputs: peers.map(({ name }, i) => ({ id: `o${i}`, name, receiver: 'lamp', kind: 'network', session: 'Pumice', peer: name })),
  mappings: peers.map((_, i): RigMapping => ({ id: `m${i}`, name: `M ${i}`, on: true, signal: `f${i}`, shaping: {}, message: { kind: 'pitchBend', channel: 1, range: [0, 16383] }, output: `o${i}` })),
  surfaces: [{ id: 'deck', name: 'Deck', width: 1000, height: 600, pages: [{ id: 'one', name: 'One', controls: peers.map((_, i) => ({ ...fader, id: `c${i}`, frame: { x: 50 * i, y: 0, width: 40, height: 300 }, signals: { value: `f${i}`, touch: `f${i}.touch` } })) }] }],
};
const { answer } = await pumice.post('/api/rigs', all);
await pumice.post(`/api/rigs/${String(answer.id)}/open`, {});
const page = await TestClient.open(pumice.hubPort);
page.watch({ outputStates: true });
await waitFor('all outputs', () => page.messages.some((message) => message.kind === 'outputs' && message.outputs.outputs.filter(({ away }) => away === null).length === OUTPUTS));
const surface = await TestClient.open(pumice.hubPort, 'deck');
const before = peers.map(({ heard }) => heard.length);
const steps = (LASTS_MS / 1000) * RATE_HZ;
// A value that none before it had, so that each is a message.
await atRate(RATE_HZ, LASTS_MS, (i) => {
  for (let o = 0; o < OUTPUTS; o++) surface.move(`f${o}`, ((3 * i + 1) % 16_381) / 16_383);
});
await sleep(1000);
const counts = peers.map(({ heard }, i) => heard.length - before[i]!);
figures.push(
  figure(`${OUTPUTS} outputs at ${RATE_HZ} messages/s: missing at the other ends`, OUTPUTS * steps - counts.reduce((sum, count) => sum + count, 0), 'messages', null, aimAt(0), 'lower'),
  figure(`${OUTPUTS} outputs at ${RATE_HZ} messages/s: the fewest of one`, Math.min(...counts), 'messages', steps, null, 'higher'),
);
surface.close();
page.close();
for (const peer of peers) peer.close();
await pumice.stop();
report('outputs', figures);
