import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RigDocument } from '../../src/core/rig/document';
import { Monitor } from '../helpers/monitor';
import { TestClient } from '../helpers/client';
import { kill, Pumice, waitFor } from '../helpers/pumice';

let pumice: Pumice;
let client: TestClient;
let monitor: Monitor;

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
  client = await TestClient.open(pumice.hubPort, 'wheelhouse');
  monitor = await Monitor.open(pumice.url);
});
afterAll(async () => {
  client.close();
  monitor.close();
  await pumice.stop();
});

const rig = async (id = 'night-ferry') => (await (await fetch(`${pumice.url}/api/rigs/${id}/document`)).json()) as RigDocument;
const edit = async (change: object) => expect((await pumice.post('/api/rigs/night-ferry/edits', { edit: change })).status).toBe(200);
const sends = (message: string, before: number) => waitFor(message, () => monitor.sent.slice(before).includes(message));

/** A keyboard that goes through to an output, and its MIDI number. */
async function keyboard(name: string, output: string): Promise<{ player: TestClient; midi: number; input: string }> {
  const player = await TestClient.open(pumice.hubPort);
  const { midi } = await player.bring(name, { kind: 'midi', report: name, name }, []);
  await waitFor('the keyboard to be taken up', async () => {
    player.midi(midi, 0xb0, 20, Math.floor(Math.random() * 128));
    return (await rig()).inputs.find((input) => input.kind === 'midi' && input.device?.report === name);
  });
  const input = (await rig()).inputs.find((one) => one.kind === 'midi' && one.device?.report === name)!.id;
  await edit({ kind: 'setInput', input, set: { thru: { output, channels: [1, 2], kinds: ['notes', 'controllers', 'bend'] } } });
  return { player, midi, input };
}

describe('a voice that begins', () => {
  const RIBS = 'hull.ribs';
  /** A page of the hull with a voice that sounds; gives the bytes of its note without what tells on from off. */
  async function singing(pitch = 62): Promise<{ hull: TestClient; note: string; before: number }> {
    const hull = await TestClient.open(pumice.hubPort, 'hull');
    const before = monitor.sent.length;
    hull.voice(RIBS, 'on', 1, { pitch, strike: 0.5, pressure: 0.2, slide: 0.5 });
    const on = await waitFor('the voice', () => monitor.sent.slice(before).find((sent) => sent.startsWith('hull-song 9')));
    return { hull, note: on.slice('hull-song 9'.length, 'hull-song 9x yy'.length), before };
  }
  const ends = (note: string, before: number) => waitFor('its end', () => monitor.sent.slice(before).some((sent) => sent.startsWith(`hull-song 8${note}`)));

  it('on a page ends when the page goes away', async () => {
    const { hull, note, before } = await singing();
    hull.close();
    await ends(note, before);
  });

  it('ends with Panic, and says nothing afterwards until it begins again', async () => {
    const { hull, note, before } = await singing();
    hull.tell({ kind: 'panic' });
    await ends(note, before);
    await waitFor('the answer', () => hull.messages.some((message) => message.kind === 'panicked'));
    const after = monitor.sent.length;
    hull.voice(RIBS, 'move', 1, { pitch: 65, pressure: 1 });
    hull.voice(RIBS, 'off', 1);
    hull.voice(RIBS, 'on', 1, { pitch: 50 });
    await waitFor('the next', () => monitor.sent.slice(after).some((sent) => sent.startsWith('hull-song 9')));
    expect(monitor.sent.slice(after).filter((sent) => /^hull-song [89]/.test(sent))).toHaveLength(1);
    hull.close();
  });

  it('ends when its voice mapping is switched off, sent elsewhere or removed, and when its control is', async () => {
    const was = (await rig()).voiceMappings.find(({ stream }) => stream === RIBS)!;
    const changes: object[] = [
      { kind: 'setVoiceMapping', voiceMapping: was.id, set: { on: false } },
      { kind: 'setVoiceMapping', voiceMapping: was.id, set: { layout: { kind: 'run', first: 7, last: 9, steal: 'oldest' } } },
      { kind: 'change', changes: [{ list: 'voiceMappings', id: was.id, to: null }] },
    ];
    for (const change of changes) {
      const { hull, note, before } = await singing();
      await edit(change);
      await ends(note, before);
      hull.close();
      await edit({ kind: 'change', changes: [{ list: 'voiceMappings', id: was.id, to: was }] });
    }
    const surface = (await rig()).surfaces.find(({ id }) => id === 'hull')!;
    const { hull, note, before } = await singing();
    await edit({ kind: 'change', changes: [{ list: 'surfaces', id: 'hull', to: { ...surface, pages: [{ ...surface.pages[0]!, controls: [] }] } }] });
    await ends(note, before);
    const refused = hull.messages.length;
    hull.voice(RIBS, 'on', 2, { pitch: 60 });
    await waitFor('the refusal', () => hull.messages.slice(refused).some((message) => message.kind === 'problem' && message.problem.message === 'This page has no control with the stream hull.ribs.'));
    hull.close();
    await edit({ kind: 'change', changes: [{ list: 'surfaces', id: 'hull', to: surface }] });
  });

  it('sixty fingers are as many as there are members, and none is left when they lift', async () => {
    const hull = await TestClient.open(pumice.hubPort, 'hull');
    const before = monitor.sent.length;
    for (let voice = 0; voice < 60; voice++) hull.voice(RIBS, 'on', voice, { pitch: 40 + voice });
    for (let voice = 0; voice < 60; voice++) hull.voice(RIBS, 'off', voice);
    const count = (kind: string) => monitor.sent.slice(before).filter((sent) => sent.startsWith(`hull-song ${kind}`)).length;
    await waitFor('all to end', () => count('9') >= 10 && count('9') === count('8'));
    hull.close();
  });
});

describe('a note that begins', () => {
  it('by a gate ends when the finger lifts, although the signal is held back meanwhile', async () => {
    const before = monitor.sent.length;
    client.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => monitor.sent.slice(before).find((sent) => sent.startsWith('bell-and-rigging 99')));
    client.tell({ kind: 'holdBack', signals: ['wheelhouse.horn'] });
    client.watch({ captured: ['wheelhouse.horn'] });
    await waitFor('it to be held back', () => {
      client.move('wheelhouse.horn', 0.5);
      return client.captured.some(({ value }) => value === 0.5);
    });
    client.move('wheelhouse.horn', 0);
    await waitFor('its end', () => monitor.sent.slice(before).find((sent) => sent.startsWith('bell-and-rigging 89')));
    client.tell({ kind: 'holdBack', signals: [] });
  });

  it('that is held back while another mapping is introduced leaves no end of its own behind', async () => {
    const mapping = (await rig()).mappings.find(({ message }) => message.kind === 'controlChange')!;
    client.tell({ kind: 'introduce', mapping: mapping.id, how: 'follow' });
    await waitFor('the introduction', () => client.messages.some((message) => message.kind === 'introducing' && message.mapping === mapping.id));
    const before = monitor.sent.length;
    const entered = monitor.facts.length;
    client.move('wheelhouse.horn', 1);
    client.move('wheelhouse.horn', 0);
    await waitFor('both to have come in', () => monitor.facts.slice(entered).filter((fact) => fact.direction === 'in' && fact.signal === 'wheelhouse.horn').length === 2);
    client.tell({ kind: 'introduce', mapping: null });
    await waitFor('its end', () => client.messages.filter(({ kind }) => kind === 'introducing').length > 1);
    expect(monitor.sent.slice(before).filter((sent) => /^bell-and-rigging [89]9/.test(sent))).toEqual([]);
  });

  it('by a control that is taken off its surface while it is held ends', async () => {
    const before = monitor.sent.length;
    client.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => monitor.sent.slice(before).find((sent) => sent.startsWith('bell-and-rigging 99')));
    const surface = (await rig()).surfaces.find(({ id }) => id === 'wheelhouse')!;
    const without = { ...surface, pages: surface.pages.map((one) => ({ ...one, controls: one.controls.filter(({ signals }) => !Object.values(signals).includes('wheelhouse.horn')) })) };
    await edit({ kind: 'change', changes: [{ list: 'surfaces', id: surface.id, to: without }] });
    await waitFor('its end', () => monitor.sent.slice(before).find((sent) => sent.startsWith('bell-and-rigging 89')));
    await edit({ kind: 'change', changes: [{ list: 'surfaces', id: surface.id, to: surface }] });
  });

  it('by a finger goes on when its page is back on a new line before the old one is known to be lost', async () => {
    const before = monitor.sent.length;
    const ends = () => monitor.sent.slice(before).filter((sent) => sent.startsWith('bell-and-rigging 89')).length;
    const [old, again] = [await TestClient.open(pumice.hubPort, 'wheelhouse'), await TestClient.open(pumice.hubPort, 'wheelhouse')];
    old.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => monitor.sent.slice(before).find((sent) => sent.startsWith('bell-and-rigging 99')));
    const entered = monitor.facts.length;
    again.move('wheelhouse.horn', 1);
    await waitFor('it to be said again', () => monitor.facts.slice(entered).some((fact) => fact.direction === 'in' && fact.signal === 'wheelhouse.horn'));
    client.watch({ activity: true });
    const playing = () => client.messages.flatMap((message) => (message.kind === 'surfaces' ? [message.playing.wheelhouse] : [])).at(-1);
    await waitFor('all three to be there', () => playing() === 3);
    old.socket.terminate();
    await waitFor('the old line to be gone', () => playing() === 2);
    expect(ends()).toBe(0);
    again.socket.terminate();
    await waitFor('its end', () => ends() === 1);
  });

  it('by a scene ends with the next scene, and with Panic', async () => {
    const scene = (id: string, ...messages: number[][]) => ({ list: 'scenes', id, to: { id, name: id, mappings: {}, pages: {}, values: {}, glideMs: 0, messages: messages.map((bytes) => ({ output: 'hull-song', bytes })) } });
    await edit({ kind: 'change', changes: [scene('drone', [0x93, 61, 90]), scene('calm', [0xc3, 1])] });
    const recall = (id: string) => pumice.post(`/api/scenes/${id}/recall`, {});
    let before = monitor.sent.length;
    await recall('drone');
    await sends('hull-song 93 3D 5A', before);
    await recall('calm');
    await sends('hull-song 83 3D 40', before);
    before = monitor.sent.length;
    await recall('drone');
    await sends('hull-song 93 3D 5A', before);
    client.tell({ kind: 'panic' });
    await sends('hull-song 83 3D 40', before);
    // Its channel is one that no mapping uses, and is silenced all the same.
    await sends('hull-song B3 7B 00', before);
    // Nothing leaves that nobody caused.
    const by = (bytes: string) => monitor.facts.findLast((fact) => fact.direction === 'out' && fact.output === 'hull-song' && fact.bytes === bytes);
    expect([by('93 3D 5A'), by('83 3D 40'), by('B3 7B 00')]).toMatchObject([{ who: 'scene', mapping: null }, { who: 'scene' }, { who: 'panic', mapping: null }]);
  });

  it('through from a keyboard ends with Panic, with a change of the thru and with the output that goes', async () => {
    const { player, midi, input } = await keyboard('bass keys', 'weather');
    let before = monitor.sent.length;
    player.midi(midi, 0x91, 50, 100);
    await sends('weather 91 32 64', before);
    expect(monitor.facts.findLast((fact) => fact.direction === 'out' && fact.bytes === '91 32 64')).toMatchObject({ who: 'thru', mapping: null });
    before = monitor.sent.length;
    client.tell({ kind: 'panic' });
    await sends('weather 81 32 40', before);
    await sends('weather B1 7B 00', before);
    before = monitor.sent.length;
    player.midi(midi, 0x81, 50, 0, 0x91, 51, 100);
    await sends('weather 91 33 64', before);
    expect(monitor.sent.slice(before)).not.toContain('weather 81 32 00');
    await edit({ kind: 'setInput', input, set: { thru: { output: 'hull-song', channels: [1, 2], kinds: ['notes'] } } });
    await sends('weather 81 33 40', before);
    before = monitor.sent.length;
    player.midi(midi, 0x91, 52, 100);
    await sends('hull-song 91 34 64', before);
    const extra = { list: 'outputs', id: 'spare', to: { id: 'spare', name: 'Spare', kind: 'standIn', receiver: 'weather' } };
    await edit({ kind: 'change', changes: [extra] });
    await edit({ kind: 'setInput', input, set: { thru: { output: 'spare', channels: [1, 2], kinds: ['notes'] } } });
    await sends('hull-song 81 34 40', before);
    player.midi(midi, 0x91, 53, 100);
    await sends('spare 91 35 64', before);
    await edit({ kind: 'setInput', input, set: { thru: null } });
    await edit({ kind: 'change', changes: [{ list: 'outputs', id: 'spare', to: null }] });
    await sends('spare 81 35 40', before);
    player.close();
  });

  it('through from a keyboard that vanishes ends, and its pedal and bend are put back', async () => {
    const { player, midi } = await keyboard('left keys', 'weather');
    const before = monitor.sent.length;
    player.midi(midi, 0x90, 40, 100, 0xb0, 64, 127, 0xe0, 0, 96);
    await sends('weather E0 00 60', before);
    player.socket.terminate();
    for (const message of ['weather 80 28 40', 'weather B0 40 00', 'weather E0 00 40']) await sends(message, before);
  });

  it('through from a keyboard ends when another rig is opened', async () => {
    const { player, midi } = await keyboard('right keys', 'weather');
    const before = monitor.sent.length;
    player.midi(midi, 0x90, 45, 100);
    await sends('weather 90 2D 64', before);
    const { answer } = await pumice.post('/api/rigs', { ...(await rig()), name: 'Other', inputs: [], signals: [], derived: [], mappings: [], streams: [], members: [], voiceMappings: [], scenes: [], surfaces: [] });
    const { id } = answer as unknown as { id: string };
    expect((await pumice.post(`/api/rigs/${id}/open`, {})).status).toBe(200);
    await sends('weather 80 2D 40', before);
    expect((await pumice.post('/api/rigs/night-ferry/open', {})).status).toBe(200);
    player.close();
  });
});

it('what sounds when all three processes die together is ended by the next start, and a pedal that holds it is lifted', async () => {
  const other = await Pumice.fresh();
  await other.run();
  const finger = await TestClient.open(other.hubPort, 'wheelhouse');
  finger.watch({ outputs: ['bell-and-rigging'] });
  await other.give({ kind: 'setMapping', mapping: 'doors', set: { message: { kind: 'controlChange', channel: 10, controller: 64, range: [0, 127] } } });
  finger.move('wheelhouse.horn', 1);
  finger.move('wheelhouse.doors', 1);
  await waitFor('the horn', () => finger.heard.includes('bell-and-rigging note 10 43 112'));
  await waitFor('the pedal', () => finger.heard.includes('bell-and-rigging controlChange 10 64 127'));
  const { web, hub, supervisor } = await other.health();
  for (const pid of [supervisor.pid, web.pid, hub.pid]) kill(pid);
  await waitFor('all three to be gone', async () => (await other.leftovers()).length === 0);
  const again = await Pumice.fresh(other.folder);
  const { readFileSync } = await import('node:fs');
  const bits = () => readFileSync(`${other.folder}/sounding`).subarray(64 * 64).reduce((sum, byte) => sum + byte, 0);
  expect(readFileSync(`${other.folder}/sounding`).subarray(64 * 64).filter((byte) => byte > 0).length).toBe(2);
  await again.run();
  await waitFor('the note to be ended', () => bits() === 0);
  finger.close();
  await again.stop();
});
