import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { Monitor } from '../helpers/monitor';
import { TestClient } from '../helpers/client';
import { kill, Pumice, waitFor } from '../helpers/pumice';
import { readMidiFile } from '../../src/protocol/midiFile';
import { asSent, recordingOf, renderedTake, scoreOf, takesOf } from '../helpers/takes';

let pumice: Pumice;
let client: TestClient;
let monitor: Monitor;

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
}, 60_000);
beforeEach(async () => {
  await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
  client = await TestClient.open(pumice.hubPort, 'wheelhouse');
  monitor = await Monitor.open(pumice.url);
});
afterAll(async () => {
  await pumice.stop();
});

async function begin(): Promise<string> {
  client.tell({ kind: 'record', does: 'begin' });
  const take = await waitFor('the lamp', () => recordingOf(client)?.take);
  monitor.facts.length = 0;
  return take;
}

async function end(): Promise<void> {
  client.tell({ kind: 'record', does: 'end' });
  await waitFor('the lamp to be out', () => recordingOf(client)?.take === null);
}

/** Moves the fog by so many values, ends at the value given, and waits until that has left. */
async function play(steps: number, last: number): Promise<void> {
  const byte = Math.round(last * 127)
    .toString(16)
    .toUpperCase()
    .padStart(2, '0');
  for (let i = 0; i < steps; i++) client.move('wheelhouse.fog', i % 2 ? 0.2 + i / (4 * steps) : 0.7 - i / (4 * steps));
  client.move('wheelhouse.fog', last);
  await waitFor('what was played to leave', () => monitor.sent.findLast((line) => line.startsWith('weather B2 15')) === `weather B2 15 ${byte}`);
}

describe('a take', () => {
  it('is what was played: rendered, its messages are those that left, with edits, scenes and voices between', async () => {
    const id = await begin();
    await play(200, 1);
    client.tell({ kind: 'record', does: 'mark' });
    await pumice.edit('swell', { message: { kind: 'controlChange', channel: 7, controller: 70, range: [0, 127] } });
    client.move('wheelhouse.swell', 0.25);
    await pumice.post('/api/scenes/fog-bank/recall', {});
    const hull = await TestClient.open(pumice.hubPort, 'hull');
    hull.voice('hull.ribs', 'on', 1, { pitch: 60.3, strike: 0.7 });
    for (let i = 0; i < 30; i++) hull.voice('hull.ribs', 'move', 1, { pitch: 60.3 + i / 40 });
    hull.voice('hull.ribs', 'off', 1);
    await waitFor('the voice to end', () => monitor.sent.some((line) => line.startsWith('hull-song 8')));
    client.move('wheelhouse.horn', 1);
    client.move('wheelhouse.horn', 0);
    await waitFor('the horn to end', () => monitor.sent.some((line) => line.startsWith('bell-and-rigging 89')));
    await end();
    const sent = [...monitor.sent];
    const { take, score, versions } = await renderedTake(pumice, id);
    expect(take).toMatchObject({ name: 'Take 1', rigName: 'Night Ferry', state: 'whole' });
    expect(take.marks).toHaveLength(1);
    expect(versions[0]).toMatchObject({ name: 'As it was played', leftOut: [] });
    // After the last that was waited for, smoothing and clocks may have gone on for a moment.
    const rendered = asSent(score);
    expect(rendered.slice(0, sent.length)).toEqual(sent);
    expect(score.every(({ atMs }, i) => i === 0 || atMs >= score[i - 1]!.atMs)).toBe(true);
  });

  it('names what was made while it was recorded, goes through a rig that is not open, and takes both along where it is handed over', async () => {
    const rig = await pumice.playing();
    const fog = rig.document.mappings.find(({ id }) => id === 'fog')!;
    const id = await begin();
    await pumice.give({ kind: 'change', changes: [{ list: 'mappings', id: 'late-fog', to: { ...fog, id: 'late-fog', name: 'Late fog', message: { kind: 'controlChange', channel: 9, controller: 71, range: [0, 127] } } }] });
    for (const value of [0, 0.5, 1]) client.move('wheelhouse.fog', value);
    await waitFor('both to leave', () => ['weather B2 15 7F', 'weather B8 47 7F'].every((line) => monitor.sent.includes(line)));
    await end();
    const first = await renderedTake(pumice, id);
    expect(first.rig.mappings).toContainEqual({ id: 'late-fog', name: 'Late fog' });

    // Another rig, stored and not open, with an output of its own.
    const [weather] = rig.document.outputs.filter(({ id: output }) => output === 'weather');
    const stored = { ...rig.document, name: 'Dry dock', outputs: [...rig.document.outputs, { ...weather!, id: 'crane', name: 'Crane' }], mappings: rig.document.mappings.map((one) => (one.id === 'fog' ? { ...one, output: 'crane' } : one)) };
    const { answer } = await pumice.post('/api/rigs', stored);
    const { id: dock } = answer as unknown as { id: string };
    const changes = (await (await fetch(`${pumice.url}/api/takes/${id}/changes?rig=${dock}`)).json()) as { id: string; change: string }[];
    expect(changes.map((one) => `${one.id} ${one.change}`)).toEqual(['fog changed']);
    expect((await pumice.post(`/api/takes/${id}/render`, { rig: dock })).status).toBe(200);
    const through = await waitFor('the version through it', async () => {
      const detail = await renderedTake(pumice, id);
      return detail.versions.length === 2 ? detail : null;
    });
    expect(through.versions[1]!.name).toBe('Through Dry dock');
    expect(through.rig.outputs.find(({ id: output }) => output === 'crane')).toMatchObject({ name: 'Crane' });
    expect((await scoreOf(pumice, id, through.versions[1]!.id)).some(({ source }) => source.output === 'crane')).toBe(true);
    expect((await pumice.post(`/api/takes/${id}/render`, { rig: 'no-such-rig' })).answer).toMatchObject({ problem: { message: 'There is no rig "no-such-rig".' } });

    const file = (version: number, as: string) => fetch(`${pumice.url}/api/takes/${id}/versions/${through.versions[version]!.id}/file?as=${as}`);
    const tracks = async (version: number) => new Set(readMidiFile(new Uint8Array(await (await file(version, 'midi')).arrayBuffer())).messages.map(({ track }) => track));
    expect(await tracks(0)).toContain('Weather: Late fog');
    expect(await tracks(1)).toContain('Crane: Fog density');
    const taken = (await (await fetch(`${pumice.url}/api/takes?name=whole.json`, { method: 'POST', body: await (await file(0, 'take')).text() })).json()) as { take: { id: string } };
    const again = await renderedTake(pumice, taken.take.id);
    expect(again.rig).toEqual(through.rig);
    const copy = await fetch(`${pumice.url}/api/takes/${taken.take.id}/versions/${again.versions[1]!.id}/file?as=midi`);
    expect(readMidiFile(new Uint8Array(await copy.arrayBuffer())).messages.map(({ track }) => track)).toContain('Crane: Fog density');
    await pumice.give({ kind: 'change', changes: [{ list: 'mappings', id: 'late-fog', to: null }] });
  });

  it('is begun once, ended once, and what was not recorded is kept by one click', async () => {
    const id = await begin();
    client.tell({ kind: 'record', does: 'begin' });
    await waitFor('the refusal', () => client.messages.some((message) => message.kind === 'problem' && message.problem.message.includes('being recorded already')));
    expect(recordingOf(client)?.take).toBe(id);
    await waitFor('it to be listed', async () => (await takesOf(pumice)).some((take) => take.id === id));
    expect((await fetch(`${pumice.url}/api/takes/${id}`, { method: 'DELETE' })).status).toBe(409);
    await end();
    client.tell({ kind: 'record', does: 'end' });
    await waitFor('the other refusal', () => client.messages.some((message) => message.kind === 'problem' && message.problem.message === 'No take is being recorded.'));
    await play(40, 0.5);
    const before = (await takesOf(pumice)).length;
    client.tell({ kind: 'record', does: 'keep' });
    const [kept] = await waitFor('the last half minute as a take', async () => {
      const takes = await takesOf(pumice);
      return takes.length > before && takes[0]!.state === 'whole' ? takes : null;
    });
    const { score } = await renderedTake(pumice, kept!.id);
    // Of the fog alone: what a scene set gliding before may still be on its way.
    expect(asSent(score).filter((line) => line.startsWith('weather B2 15')).at(-1)).toBe('weather B2 15 40');
  });

  it.each(['hub', 'web', 'both'] as const)('survives that the %s is killed while it is recorded, and recording goes on', async (who) => {
    const id = await begin();
    await play(100, 1);
    const before = [...monitor.sent];
    await waitFor('it to be written down', async () => (await takesOf(pumice)).some((take) => take.id === id && take.events >= 100) && recordingOf(client)?.waiting === 0);
    const { web, hub } = await pumice.health();
    if (who !== 'web') kill(hub.pid);
    if (who !== 'hub') kill(web.pid);
    await waitFor('it to be back', async () => {
      const now = await pumice.health();
      return now.ok && (who === 'web' || now.hub.pid !== hub.pid) && (who === 'hub' || now.web.pid !== web.pid);
    });
    const back = who === 'web' ? client : await TestClient.open(pumice.hubPort, 'wheelhouse');
    const goesOn = await waitFor('how recording stands', () => recordingOf(back));
    if (who === 'web') expect(goesOn.take).toBe(id);
    // The web process saw that take begin, and no other hub will; where it died too nobody asked for another.
    if (who === 'hub') await waitFor('the next take', () => recordingOf(back)?.take && recordingOf(back)?.take !== id);
    if (who !== 'both') {
      back.tell({ kind: 'record', does: 'end' });
      await waitFor('the lamp to be out', () => recordingOf(back)?.take === null);
    }
    const take = await waitFor('the take to be closed', async () => (await takesOf(pumice)).find((one) => one.id === id && one.state !== 'recording'));
    expect(take.state).toBe(who === 'web' ? 'whole' : 'cut');
    const { score } = await renderedTake(pumice, id);
    expect(asSent(score).slice(0, before.length)).toEqual(before);
  });
});
