import { execFileSync } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseMidi } from 'midi-file';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RigDocument } from '../../src/core/rig/document';
import { decodeOsc } from '../../src/net/osc/codec';
import { Monitor } from '../helpers/monitor';
import { TestClient } from '../helpers/client';
import { Pumice, waitFor } from '../helpers/pumice';

const example = () => JSON.parse(readFileSync('docs/examples/small-rig.json', 'utf8')) as RigDocument;

let pumice: Pumice;
let monitor: Monitor;

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
  await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
  monitor = await Monitor.open(pumice.url);
});
afterAll(async () => {
  monitor?.close();
  await pumice?.stop();
});

async function open(rig: RigDocument): Promise<string> {
  const { status, answer } = await pumice.post('/api/rigs', rig);
  expect(status).toBe(200);
  const { id } = answer as unknown as { id: string };
  expect((await pumice.post(`/api/rigs/${id}/open`, {})).status).toBe(200);
  return id;
}

describe('a rig document', () => {
  it('comes out of the program equal to what went in', async () => {
    const { answer } = await pumice.post('/api/rigs', example());
    const { id } = answer as unknown as { id: string };
    expect(await (await fetch(`${pumice.url}/api/rigs/${id}/document`)).json()).toEqual(example());
    expect((await fetch(`${pumice.url}/api/rigs/nowhere/document`)).status).toBe(404);
  });
  it('with several mistakes is refused with all of them, and nothing is taken in', async () => {
    const rig = example() as unknown as { tempoBpm: number; mappings: { message: object; extra?: number }[] };
    rig.tempoBpm = 5;
    rig.mappings[0]!.extra = 1;
    rig.mappings[1]!.message = { kind: 'smoke' };
    const { status, answer } = await pumice.post('/api/rigs', rig);
    const { problems } = answer as unknown as { problems: { field: string }[] };
    expect(status).toBe(400);
    expect(problems.map(({ field }) => field)).toEqual(['tempoBpm', 'mappings[0].extra', 'mappings[1].message.kind']);
  });
  it('plays what it says: OSC in, shaping, derived signals, gates, scenes', async () => {
    await open(example());
    await pumice.osc('/mooring/stretch', 800);
    await waitFor('the bend at its upper end', () => monitor.sent.includes('weather E1 7F 7F'));
    const client = await TestClient.open(pumice.hubPort, 'deck');
    client.watch({ signals: ['tug'] });
    for (let i = 0; i < 20; i++) {
      await pumice.osc('/mooring/stretch', 100 + i * 40);
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    await waitFor('the creak of a tug', () => monitor.sent.some((line) => line.startsWith('weather 99 32')));
    await waitFor('its end after 80 ms', () => monitor.sent.some((line) => line.startsWith('weather 89 32')));
    await waitFor('the derived signal to be shown', () => (client.values.get('tug') ?? 0) !== 0);
    client.move('swell', 1);
    await waitFor('the swell', () => monitor.sent.includes('weather B2 16 7F'));
    expect((await pumice.post('/api/scenes/calm/recall', {})).status).toBe(200);
    await waitFor('the swell to calm down', () => monitor.facts.some((fact) => fact.direction === 'out' && fact.bytes.startsWith('B2 16 0') && fact.mapping === 'swell'));
    expect((await pumice.post('/api/scenes/storm/recall', {})).status).toBe(404);
    client.close();
  });
  it('sends OSC over UDP, and leaves out what no slow port has room for', async () => {
    const listener = createSocket('udp4');
    const heard: number[] = [];
    listener.on('message', (packet) => heard.push(...decodeOsc(packet).map(({ arguments: values }) => values[0] as number)));
    await new Promise<void>((resolve) => listener.bind(0, '127.0.0.1', resolve));
    const rig = example();
    rig.outputs.push({ id: 'light', name: 'Light', kind: 'osc', host: '127.0.0.1', port: listener.address().port, receiver: 'weather' });
    rig.outputs[0]!.bytesPerS = 3125;
    rig.mappings[0] = { ...rig.mappings[0]!, shaping: {}, output: 'light', message: { kind: 'osc', address: '/light/level', arguments: [{ type: 'f', value: 'value' }], range: [0, 10] } };
    await open(rig);
    const client = await TestClient.open(pumice.hubPort, 'deck');
    client.move('swell', 0.5);
    await waitFor('the packet', () => heard.includes(5));
    listener.close();
    client.close();
  });
  it('holds back what goes round from an OSC output to the OSC port, and says which', async () => {
    const rig = example();
    rig.outputs.push({ id: 'mirror', name: 'Mirror', kind: 'osc', host: '127.0.0.1', port: pumice.oscPort, receiver: 'weather' });
    rig.scenes = [];
    // Each round turns the value over, so the loop would never settle by itself.
    rig.signals.find(({ id }) => id === 'rope')!.range = [0, 1];
    rig.mappings = [{ ...rig.mappings[0]!, signal: 'rope', shaping: {}, output: 'mirror', message: { kind: 'osc', address: '/mooring/stretch', arguments: [{ type: 'f', value: 'value' }], range: [1, 0] } }];
    await open(rig);
    await pumice.osc('/mooring/stretch', 1);
    await waitFor('the report', () => pumice.output.includes('what mirror sends comes back at the OSC port and is held back'));
    await new Promise((resolve) => setTimeout(resolve, 500));
    const before = monitor.facts.length;
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(monitor.facts.length).toBe(before);
  });
  it('turns the page of a surface where a scene says so, for pages that open later too', async () => {
    const rig = example();
    rig.surfaces[0]!.pages.push({ id: 'second', name: 'Second', controls: [] });
    rig.scenes[0]!.pages = { deck: 'second' };
    await open(rig);
    const client = await TestClient.open(pumice.hubPort, 'deck');
    await pumice.post('/api/scenes/calm/recall', {});
    await waitFor('the page', () => client.messages.some((message) => message.kind === 'page' && message.turned.page?.to === 'second'));
    const late = await TestClient.open(pumice.hubPort, 'deck');
    await waitFor('the page again', () => late.messages.some((message) => message.kind === 'page' && message.turned.page?.to === 'second'));
    client.close();
    late.close();
  });
  it('another one whose parts are called the same shows pages that stay its own values; those of the first are there when it is opened again', async () => {
    const [first, second] = [await open(example()), await open(example())];
    const client = await TestClient.open(pumice.hubPort, 'deck');
    client.watch({ signals: ['swell'] });
    const swellIs = (value: number) => waitFor(`the swell at ${value}`, () => client.values.get('swell') === value);
    client.move('swell', 0.75);
    await waitFor('the desk to know it', async () => ((await (await fetch(`${pumice.url}/api/values`)).json()) as Record<string, number>).swell === 0.75);
    await pumice.post(`/api/rigs/${first}/open`, {});
    await swellIs(0);
    await pumice.post(`/api/rigs/${second}/open`, {});
    await swellIs(0.75);
    client.close();
  });
  it('a broken OSC packet changes nothing', async () => {
    const socket = createSocket('udp4');
    for (const bytes of [[1, 2, 3], [0x2f], [0x2f, 0x61, 0, 0, 0x2c, 0x66, 0, 0], Array.from(Buffer.from('#bundle\0garbage'))]) {
      socket.send(Uint8Array.from(bytes), pumice.oscPort, '127.0.0.1');
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
    socket.close();
    expect((await pumice.health()).ok).toBe(true);
    await waitFor('the complaint in the log', () => /a broken OSC packet of 3 bytes from 127\.0\.0\.1 was left out/.test(pumice.output));
  });
});

/** Reads a MIDI file with a library that knows nothing of this project, and prints its channel messages in order. */
const READ_BY_MIDO = `
import json, sys, mido
messages = [message for track in mido.MidiFile(sys.argv[1]).tracks for message in track if not message.is_meta]
print(json.dumps([message.dict() for message in messages]))
`;

describe('bin/render.ts', () => {
  const folder = mkdtempSync(join(tmpdir(), 'pumice-render-'));
  const run = (...args: string[]) => execFileSync(process.execPath, ['--import', 'tsx', 'bin/render.ts', ...args], { encoding: 'utf8', stdio: 'pipe' });
  const samples = join(folder, 'samples.jsonl');

  it('renders samples to a MIDI file and to messages, the same each time', () => {
    const lines = Array.from({ length: 200 }, (_, i) => JSON.stringify({ signal: 'swell', timeMs: 1000 + i * 10, value: 0.5 - 0.5 * Math.cos(i / 20) }));
    writeFileSync(samples, `${lines.join('\n')}\n`);
    const [mid, one, two] = ['take.mid', 'one.jsonl', 'two.jsonl'].map((name) => join(folder, name)) as [string, string, string];
    run('--rig', 'docs/examples/small-rig.json', '--samples', samples, '--out', mid, '--out', one);
    run('--rig', 'docs/examples/small-rig.json', '--samples', samples, '--out', two);
    expect(readFileSync(one, 'utf8')).toBe(readFileSync(two, 'utf8'));
    const messages = readFileSync(one, 'utf8').trim().split('\n').map((line) => JSON.parse(line) as { output: string; bytes: string; mapping: string });
    expect(messages[0]).toEqual({ timeMs: 1000, output: 'weather', bytes: 'B2 16 00', who: 'mapping', mapping: 'swell' });
    const { tracks } = parseMidi(readFileSync(mid));
    expect(tracks[1]!.filter(({ type }) => type === 'controller')).toHaveLength(messages.length);
  });
  it.skipIf(!existsSync('/usr/lib/python3/dist-packages/mido'))('renders the voices of the example to a file that python3-mido reads as MPE: every note after its bend, slide and pressure, in tune, and ended', () => {
    const mid = join(folder, 'hull.mid');
    run('--rig', 'docs/examples/hull.json', '--samples', 'docs/examples/hull.jsonl', '--out', mid);
    const begun = readFileSync('docs/examples/hull.jsonl', 'utf8').trim().split('\n').map((line) => JSON.parse(line) as { kind: string; pitch: number }).filter(({ kind }) => kind === 'on');
    const heard = JSON.parse(execFileSync('/usr/bin/python3', ['-c', READ_BY_MIDO, mid], { encoding: 'utf8' })) as { channel: number; type: string; note?: number; pitch?: number; control?: number }[];
    const said = new Map<number, { type: string; pitch?: number; control?: number }[]>();
    const sounding = new Set<string>();
    const pitches: number[] = [];
    for (const message of heard) {
      const { channel, type, note } = message;
      // The lower zone: its manager is channel 0 as the reader counts, and no note is there.
      expect(channel).toBeGreaterThan(0);
      const before = said.get(channel) ?? [];
      if (type === 'note_on') {
        expect(before.slice(-3).map((one) => one.type)).toEqual(['pitchwheel', 'control_change', 'aftertouch']);
        expect(before.at(-2)!.control).toBe(74);
        sounding.add(`${channel} ${note!}`);
        // The reader counts bends from -8192 to 8191; the range of the example is 48 semitones.
        pitches.push(note! + (48 * before.at(-3)!.pitch!) / 8192);
      } else if (type === 'note_off') expect(sounding.delete(`${channel} ${note!}`)).toBe(true);
      said.set(channel, [...before.slice(-2), message]);
    }
    expect([...sounding]).toEqual([]);
    expect(pitches).toHaveLength(begun.length);
    pitches.forEach((pitch, i) => expect(Math.abs(pitch - begun[i]!.pitch)).toBeLessThan(0.003));
  });
  it('replays a log of everything that an engine was given: samples, ticks, scenes, edits, thru', () => {
    const rig = JSON.parse(readFileSync('docs/examples/small-rig.json', 'utf8')) as RigDocument;
    const other = { ...rig, mappings: rig.mappings.map((mapping) => (mapping.id === 'swell' ? { ...mapping, message: { kind: 'controlChange' as const, channel: 5, controller: 9, range: [0, 127] as [number, number] } } : mapping)) };
    const log = join(folder, 'log.jsonl');
    const events = [
      { kind: 'start', timeMs: 0 },
      { kind: 'sample', timeMs: 1, signal: 'swell', value: 1 },
      { kind: 'pass', timeMs: 2, input: 'keys', output: 'weather', bytes: [0x91, 60, 100] },
      { kind: 'rig', timeMs: 3, rig: other },
      { kind: 'endThru', timeMs: 4, input: 'keys' },
      { kind: 'release', timeMs: 5 },
    ];
    writeFileSync(log, events.map((event) => `${JSON.stringify(event)}\n`).join(''));
    const out = join(folder, 'replayed.jsonl');
    run('--rig', 'docs/examples/small-rig.json', '--log', log, '--out', out);
    const messages = readFileSync(out, 'utf8').trim().split('\n').map((line) => JSON.parse(line) as { timeMs: number; bytes: string; who: string });
    expect(messages.map(({ timeMs, bytes, who }) => [timeMs, bytes, who])).toEqual([
      [1, 'B2 16 7F', 'mapping'],
      [2, '91 3C 64', 'thru'],
      [3, 'B4 09 7F', 'mapping'],
      [4, '81 3C 40', 'thru'],
    ]);
    writeFileSync(log, '{"kind": "recall", "timeMs": 1}\n');
    expect(() => run('--rig', 'docs/examples/small-rig.json', '--log', log, '--out', out)).toThrow('line 1: scene is required');
  });
  it.each([
    ['{"signal": "swell"', 'line 2: a line must be JSON'],
    ['{"signal": "swell", "timeMs": 5}', 'line 2: value is required'],
    ['{"stream": "hull", "voice": 1, "timeMs": 5, "kind": "on"}', 'line 2: pitch is required'],
    ['{"stream": "hull", "voice": 1, "timeMs": 5, "kind": "off"}', 'line 2: the rig has no stream "hull"'],
    ['{"signal": "anchor", "timeMs": 5, "value": 1}', 'line 2: the rig has no signal "anchor"'],
    ['{"signal": "swell", "timeMs": 1795963834000, "value": 1}', 'line 2: its time lies more than 12 hours after that of the line before'],
  ])('says which line is wrong and why: %s', (line, sentence) => {
    writeFileSync(samples, `{"signal": "swell", "timeMs": 1, "value": 1}\n${line}\n`);
    expect(() => run('--rig', 'docs/examples/small-rig.json', '--samples', samples, '--out', join(folder, 'bad.jsonl'))).toThrow(sentence);
  });
});
