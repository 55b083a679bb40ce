import { applyEdit } from '../src/core/rig/edit';
import { RIG_FORMAT, RIG_VERSION, type RigDocument, type RigMapping } from '../src/core/rig/document';
import { giveCompilerRoom } from '../src/hub/compilerRoom';
import { memoryStore, SoundingBook } from '../src/hub/outputs/soundingBook';
import { Player } from '../src/hub/player';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { TestClient } from '../test/helpers/client';
import { atRate, nowMs, sleep } from './pace';
import { aimAt, figure, percentile, report, type Figure } from './report';

/**
 * What an edit costs: the hub's player alone, for rigs of two sizes, beside copying a list of as many mappings; from the request of
 * an edit to the message that it makes leave, ten times a second and one right after another; and what a finger feels of it.
 */
const EDITS = 300;
const ENDS = 300;
const PANICS = 100;

giveCompilerRoom();

function rigOf(mappings: number, outputs: number): RigDocument {
  const surface = { id: 'deck', name: 'Deck', width: 1000, height: 600, pages: [{ id: 'one', name: 'One', controls: Array.from({ length: Math.min(mappings, 400) }, (_, i) => ({ id: `rope-${i}`, kind: 'fader' as const, label: '', frame: { x: 0, y: 0, width: 24, height: 100 }, signals: { value: `rope-${i}`, touch: `rope-${i}.touch` } })) }] };
  return {
    format: RIG_FORMAT,
    version: RIG_VERSION,
    meter: [4, 4],
    members: [],
    name: 'Many ropes',
    tempoBpm: 120,
    inputs: [{ id: 'deck', name: 'Deck', kind: 'surface', surface: 'deck' }],
    signals: Array.from({ length: mappings }, (_, i) => [
      { id: `rope-${i}`, name: `Rope ${i}`, input: 'deck', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number] },
      { id: `rope-${i}.touch`, name: `Rope ${i} touch`, input: 'deck', kind: 'gate' as const, unit: 'unit' as const, range: [0, 1] as [number, number] },
    ]).flat(),
    derived: [],
    mappings: Array.from({ length: mappings }, (_, i): RigMapping => ({
      id: `m-${i}`,
      name: `Mapping ${i}`,
      on: true,
      signal: `rope-${i}`,
      output: `out-${i % outputs}`,
      shaping: { smoothing: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 }, curve: { kind: 's', amount: 1 } },
      message: i % 5 === 0 ? { kind: 'note', channel: 1 + (i % 16), note: i % 128, velocity: 100 } : { kind: 'controlChange', channel: 1 + (i % 16), controller: i % 120, range: [0, 127] },
      ...(i % 5 === 0 ? { signal: `rope-${i}.touch`, shaping: {} } : {}),
    })),
    outputs: Array.from({ length: outputs }, (_, o) => ({ id: `out-${o}`, name: `Out ${o}`, kind: 'standIn' as const, receiver: 'weather' })),
    receivers: [{ id: 'weather', name: 'Weather', about: '', bendRangeSemitones: 2 }],
    surfaces: [surface],
    scenes: [],
    streams: [],
    voiceMappings: [],
    scales: [],
  };
}

/** Milliseconds of the hub's player for each of many renames, and of copying the list that they touch; and for Panic. */
function costs(mappings: number, outputs: number): { edits: number[]; copies: number[]; panics: number[] } {
  const player = new Player(new SoundingBook(memoryStore()));
  let rig = rigOf(mappings, outputs);
  player.load(rig, 0, false, {});
  const edits: number[] = [];
  const copies: number[] = [];
  for (let i = 0; i < EDITS; i++) {
    const copied = performance.now();
    void rig.mappings.map((mapping) => ({ ...mapping }));
    copies.push(performance.now() - copied);
    const since = performance.now();
    const edited = applyEdit(rig, { kind: 'setMapping', mapping: `m-${i % mappings}`, set: { name: `Name ${i}` } });
    if (!edited.ok) throw new Error(edited.message);
    rig = edited.document;
    player.load(rig, i + 1, false, {});
    edits.push(performance.now() - since);
  }
  const panics = Array.from({ length: PANICS }, () => {
    const since = performance.now();
    player.panic();
    return performance.now() - since;
  });
  return { edits, copies, panics };
}

const figures: Figure[] = [];
for (const [mappings, outputs, aim] of [[500, 8, 2], [2000, 32, 10]] as const) {
  const { edits, copies, panics } = costs(mappings, outputs);
  for (const share of [0.5, 0.99]) {
    figures.push(figure(`a rename, ${mappings} mappings x ${outputs} outputs, hub, p${share * 100}`, percentile(edits, share), 'ms', percentile(copies, share), share === 0.5 ? aimAt(aim) : null, 'lower'));
  }
  figures.push(figure(`Panic, ${mappings} mappings x ${outputs} outputs, hub, p99`, percentile(panics, 0.99), 'ms', null, null, 'lower'));
}

const pumice = await Pumice.fresh();
await pumice.run();
const rig = rigOf(500, 8);
const { id } = (await pumice.post('/api/rigs', rig)).answer as unknown as { id: string };
await pumice.post(`/api/rigs/${id}/open`, {});
await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
const page = await TestClient.open(pumice.hubPort, 'deck');
await waitFor('the names', () => page.mappingNumber('m-499') >= 0);
page.watch({ outputs: ['out-1'] });
page.move('rope-1', 1);
await sleep(500);
/** Counts on from turn to turn: an edit that changes nothing sends nothing. */
let edited = 0;

/** From the request of an edit to its message, so many times, each begun no sooner than so long after the one before. */
async function ends(count: number, everyMs: number): Promise<number[]> {
  const times: number[] = [];
  for (let i = 0; i < count; i++) {
    const end = 1 + (edited++ % 127);
    page.heard.length = 0;
    const since = nowMs();
    const said = pumice.post(`/api/rigs/${id}/edits`, { edit: { kind: 'setMapping', mapping: 'm-1', set: { message: { kind: 'controlChange', channel: 2, controller: 1, range: [0, end] } } } });
    await waitForHeard(`out-1 controlChange 2 1 ${end}`);
    times.push(nowMs() - since);
    await said;
    await sleep(Math.max(0, everyMs - (nowMs() - since)));
  }
  return times;
}
async function waitForHeard(wanted: string): Promise<void> {
  while (!page.heard.includes(wanted)) await sleep(1);
}
const [first] = await ends(1, 0);
figures.push(figure('edit to message, 500 mappings x 8 outputs, the first after a start', first!, 'ms', null, null, 'lower'));
const atTen = await ends(ENDS, 100);
const oneAfterAnother = await ends(ENDS, 0);
for (const share of [0.5, 0.99]) {
  figures.push(figure(`edit to message, 500 mappings x 8 outputs, 10/s, p${share * 100}`, percentile(atTen, share), 'ms', null, share === 0.99 ? aimAt(30) : null, 'lower'));
  figures.push(figure(`edit to message, one right after another, p${share * 100}`, percentile(oneAfterAnother, share), 'ms', null, null, 'lower'));
}

/** From a finger to the receiver, at a rate, with or without edits beside it. */
async function fingers(edits: boolean): Promise<number[]> {
  const times: number[] = [];
  const sent = new Map<number, number>();
  let count = 0;
  const finger = atRate(50, 6000, () => {
    const value = count++ % 127;
    sent.set(value, nowMs());
    page.move('rope-2', value / 127);
  });
  let edit = 0;
  const editor = edits ? atRate(10, 6000, () => void pumice.post(`/api/rigs/${id}/edits`, { edit: { kind: 'setMapping', mapping: `m-${10 + (edit++ % 50)}`, set: { name: `Edit ${edit}` } } })) : Promise.resolve();
  const watch = setInterval(() => {
    for (const heard of page.heard.splice(0)) {
      const value = Number(/^out-2 controlChange 3 2 (\d+)$/.exec(heard)?.[1] ?? NaN);
      const since = sent.get(value);
      if (since !== undefined) times.push(nowMs() - since);
      sent.delete(value);
    }
  }, 1);
  await Promise.all([finger, editor]);
  await sleep(300);
  clearInterval(watch);
  return times;
}
const plain: RigMapping = { ...rig.mappings[2]!, shaping: {}, message: { kind: 'controlChange', channel: 3, controller: 2, range: [0, 127] } };
await pumice.post(`/api/rigs/${id}/edits`, { edit: { kind: 'change', changes: [{ list: 'mappings', id: plain.id, to: plain }] } });
page.watch({ outputs: ['out-2'] });
const still = await fingers(false);
const busy = await fingers(true);
for (const share of [0.5, 0.99]) figures.push(figure(`finger to receiver seen, edits 10/s beside it, p${share * 100} (floor: none)`, percentile(busy, share), 'ms', percentile(still, share), null, 'lower'));
report('edits', figures);
page.close();
await pumice.stop();
