import { TestClient } from '../test/helpers/client';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { Monitor } from '../test/helpers/monitor';
import { nearestPlace, onGrid, openEar, type Heard } from './grid';
import { sleep } from './pace';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';
import type { Note } from '../src/core/messages/note';

/**
 * How evenly a MIDI clock and a repeated note leave for a minute: the distance of each from its place on the grid, beside a
 * thread that only waits on the same grid with `Atomics.wait` and posts to its process, one that does nothing else, in the same
 * minute (what the machine is busy with meanwhile meets both); and how far they drift. And what a `setInterval` does.
 */
const LASTS_MS = 60_000;
const TEMPO_BPM = 120;
const CLOCK_MS = 60_000 / TEMPO_BPM / 24;
const REPEAT_HZ = 13;
const REPEAT_MS = 1000 / REPEAT_HZ;

const byNumber = (i: number) => i;

/** What must not be used for time: a timer of the event loop at the same rate. */
async function bareInterval(everyMs: number): Promise<number[]> {
  const times: number[] = [];
  const timer = setInterval(() => times.push(performance.now()), everyMs);
  await sleep(LASTS_MS);
  clearInterval(timer);
  return times;
}

const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);
const { document } = (await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: import('../src/core/rig/document').RigDocument };
const weather = document.outputs.find(({ id }) => id === 'weather')!;
const bell = document.mappings.find(({ id }) => id === 'bell')!;
const changes = [
  { list: 'outputs', id: weather.id, to: { ...weather, sendsClock: true } },
  { list: 'mappings', id: bell.id, to: { ...bell, message: { ...(bell.message as Note), repeat: { rateHz: REPEAT_HZ } } } },
];
await pumice.post('/api/rigs/night-ferry/edits', { edit: { kind: 'setRig', set: { tempoBpm: TEMPO_BPM } } });
await pumice.post('/api/rigs/night-ferry/edits', { edit: { kind: 'change', changes } });
const surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
const monitor = await Monitor.open(pumice.url);
await sleep(1000);
const ears = [await openEar(CLOCK_MS), await openEar(REPEAT_MS)];
monitor.facts.length = 0;
surface.move('wheelhouse.bell', 1);
const [clockEar, noteEar] = (await Promise.all(ears.map((ear) => ear.listen(LASTS_MS)))) as [Heard, Heard];
const times = (wanted: RegExp) => monitor.facts.flatMap((fact) => (fact.direction === 'out' && wanted.test(fact.bytes) ? [fact.timeMs] : []));
const clocks = onGrid(times(/^F8$/), CLOCK_MS, byNumber);
const notes = onGrid(times(/^9. .. (?!00)/), REPEAT_MS, nearestPlace(REPEAT_MS));
for (const ear of ears) ear.close();
surface.close();
monitor.close();
await pumice.stop();
const interval = onGrid(await bareInterval(CLOCK_MS), CLOCK_MS, byNumber);
const [bareClocks, bareNotes] = [onGrid(clockEar.bare, CLOCK_MS, byNumber), onGrid(noteEar.bare, REPEAT_MS, nearestPlace(REPEAT_MS))];

const figures: Figure[] = [];
for (const [name, seen, bare] of [['clock', clocks, bareClocks], ['repeated note', notes, bareNotes]] as const) {
  for (const share of [0.5, 0.99]) figures.push(figure(`${name}: off its grid, p${share * 100}`, percentile(seen.offMs, share), 'ms', percentile(bare.offMs, share), share === 0.99 ? aimAtRatio(1.5) : null, 'lower'));
  figures.push(figure(`${name}: drift in a minute`, seen.driftMs, 'ms', bare.driftMs, aimAt(1), 'lower'));
}
figures.push(figure('bare setInterval at the clock: off its grid, p99', percentile(interval.offMs, 0.99), 'ms', percentile(bareClocks.offMs, 0.99), null, 'lower'), figure('bare setInterval at the clock: drift in a minute', interval.driftMs, 'ms', bareClocks.driftMs, null, 'lower'));
report('clock', figures);
