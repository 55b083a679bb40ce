import { TestClient } from '../test/helpers/client';
import { kill, Pumice, waitFor } from '../test/helpers/pumice';
import { recordingOf, renderedTake, takesOf } from '../test/helpers/takes';
import { atRate, nowMs, sleep } from './pace';
import { aimAt, figure, percentile, report } from './report';

/**
 * A hundred times a finger plays while it is recorded, and the hub, the web process or both are killed at a random moment. What the
 * take holds afterwards must be the beginning of what was played, byte for byte; how much of the end is missing is measured.
 */
const ROUNDS = Number(process.env.ROUNDS ?? 100);
const RATE_HZ = 125;
const WHO = ['hub', 'web', 'both'] as const;

const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);
const lostMs: number[] = [];
let differing = 0;
let missing = 0;
let kept = 0;

for (let round = 0; round < ROUNDS; round++) {
  const who = WHO[round % WHO.length]!;
  await waitFor('it to be up', async () => (await pumice.health()).ok);
  const page = await TestClient.open(pumice.hubPort, 'wheelhouse');
  // A hub that was killed goes on with the next take by itself.
  if (recordingOf(page)?.take) page.tell({ kind: 'record', does: 'end' });
  await waitFor('no take to be recorded', () => recordingOf(page)?.take === null);
  page.tell({ kind: 'record', does: 'begin' });
  const take = await waitFor('the take', () => recordingOf(page)?.take);
  const { hub, web } = await pumice.health();
  const killAfterMs = 400 + ((round * 7919) % 1300);
  const sentMs: number[] = [];
  let killedMs = Infinity;
  const timer = setTimeout(() => {
    killedMs = nowMs();
    if (who !== 'web') kill(hub.pid);
    if (who !== 'hub') kill(web.pid);
  }, killAfterMs);
  await atRate(RATE_HZ, killAfterMs + 300, (i) => {
    if (nowMs() > killedMs) return;
    sentMs.push(nowMs());
    // Every value is another than the one before.
    page.move('wheelhouse.fog', ((i * 37) % 128) / 127);
  });
  clearTimeout(timer);
  await waitFor('both to be back', async () => {
    const now = await pumice.health();
    return now.ok && (who === 'web' || now.hub.pid !== hub.pid) && (who === 'hub' || now.web.pid !== web.pid);
  });
  if (who === 'web') {
    page.tell({ kind: 'record', does: 'end' });
    await waitFor('its end', () => recordingOf(page)?.take === null);
  }
  const found = await waitFor('the take to be closed', async () => (await takesOf(pumice)).find(({ id, state }) => id === take && state !== 'recording'), 15_000).catch(() => null);
  page.close();
  if (!found) {
    missing++;
    continue;
  }
  const { score } = await renderedTake(pumice, take);
  const played = score.filter(({ source }) => source.mapping === 'fog').map(({ bytes }) => bytes[2]!);
  // The engine says nothing of a first value that it stood at already.
  const expected = sentMs.map((_, i) => (i * 37) % 128);
  const skip = played[0] === expected[0] ? 0 : 1;
  if (played.some((byte, i) => byte !== expected[i + skip])) differing++;
  kept += played.length;
  const firstLost = sentMs[played.length + skip];
  lostMs.push(firstLost === undefined ? 0 : killedMs - firstLost);
  if (round % 10 === 9) process.stderr.write(`${round + 1} of ${ROUNDS}\n`);
  await sleep(50);
}
await pumice.stop();
report('takesKilled', [
  figure('kill -9 while recording: rounds', ROUNDS, 'rounds', null, aimAt(ROUNDS), 'higher'),
  figure('takes that were lost', missing, 'takes', null, aimAt(0), 'lower'),
  figure('takes that are not what was played, byte for byte', differing, 'takes', null, aimAt(0), 'lower'),
  figure('messages that were kept', kept, 'messages', null, null, 'higher'),
  figure('missing at the end, p50', percentile(lostMs, 0.5), 'ms', null, aimAt(1000), 'lower'),
  figure('missing at the end, most', Math.max(...lostMs), 'ms', null, aimAt(1000), 'lower'),
]);
process.exit(0);
