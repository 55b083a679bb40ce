import { execFile, execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import MIDIFile from 'midifile';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { hexOf } from '../../src/core/midi/describe';
import type { ScoreMessage } from '../../src/core/takes/score';
import { readMidiFile } from '../../src/protocol/midiFile';
import type { TakeDetail, TakeSummary } from '../../src/protocol/takes';
import { Pumice, waitFor } from '../helpers/pumice';
import { asSent, renderedTake, takesOf } from '../helpers/takes';

const MIDO = '/usr/lib/python3/dist-packages/mido';
/** Every message with its time in seconds, by an independent reader. */
const READ_BY_MIDO = `
import json, sys, mido
at = 0
out = []
for message in mido.MidiFile(sys.argv[1]):
    at += message.time
    if not message.is_meta: out.append([at, message.hex()])
print(json.dumps(out))
`;

let pumice: Pumice;
let crossing: TakeDetail & { score: ScoreMessage[] };
const folder = mkdtempSync(join(tmpdir(), 'pumice-takes-'));

beforeAll(async () => {
  pumice = await Pumice.fresh();
  await pumice.run();
  const { id } = await waitFor('the take of the demo', async () => (await takesOf(pumice)).find(({ name, sketch }) => name === 'Crossing' && sketch !== null));
  crossing = await renderedTake(pumice, id);
}, 60_000);
afterAll(async () => {
  await pumice.stop();
});

async function file(as: string, more = ''): Promise<Uint8Array> {
  const response = await fetch(`${pumice.url}/api/takes/${crossing.take.id}/versions/${crossing.versions[0]!.id}/file?as=${as}${more}`);
  expect(response.status).toBe(200);
  return new Uint8Array(await response.arrayBuffer());
}

async function takeIn(name: string, bytes: Uint8Array | string): Promise<{ take: TakeSummary; remarks: string[]; problem?: { message: string } }> {
  return (await fetch(`${pumice.url}/api/takes?name=${encodeURIComponent(name)}`, { method: 'POST', body: bytes as BodyInit })).json() as never;
}

/** What a file of the take holds by our own score: the set-up of its receivers aside, and what a MIDI file has no place for. */
const channelMessages = (score: readonly ScoreMessage[]) => score.filter(({ bytes }) => bytes[0]! < 0xf0).map(({ atMs, bytes }) => ({ atMs, hex: hexOf(bytes) }));

describe('a take that is handed over', () => {
  it('as a MIDI file of either type holds every message at its time, to half a tick, and begins with the zone and bend ranges', async () => {
    for (const as of ['midi', 'midi0']) {
      const read = readMidiFile(await file(as));
      const all = read.messages.map(({ timeMs, bytes }) => ({ atMs: timeMs, hex: hexOf(bytes) }));
      // The zone of Hull song: ten members of the upper zone, by RPN 6 on channel 16 (MPE 1.0, 2.1), and 48 semitones each.
      for (const hex of ['BF 65 00', 'BF 64 06', 'BF 06 0A', 'BE 06 30']) expect(all.slice(0, 200).map((one) => one.hex)).toContain(hex);
      const left = [...all];
      for (const { atMs, hex } of channelMessages(crossing.score)) {
        const place = left.findIndex((one) => one.hex === hex && Math.abs(one.atMs - atMs) < 0.4);
        expect(place, `${hex} at ${atMs}`).toBeGreaterThanOrEqual(0);
        left.splice(place, 1);
      }
      // What is left is the set-up alone.
      expect(left.every(({ atMs }) => atMs === 0)).toBe(true);
      expect(read.marks.map(({ name }) => name)).toEqual(['The hull sings', 'Into the fog']);
      expect(read.tempoBpm).toBeCloseTo(84, 2);
    }
  });
  it('is read the same by another package and by python3-mido, event by event', async () => {
    const bytes = await file('midi0');
    const path = join(folder, 'crossing.mid');
    writeFileSync(path, bytes);
    const ours = readMidiFile(bytes).messages.map(({ timeMs, bytes: message }) => ({ atMs: timeMs, hex: hexOf(message) }));
    const theirs = new MIDIFile(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer).getMidiEvents();
    expect(theirs).toHaveLength(ours.length);
    theirs.forEach(({ subtype, channel, param1, param2, playTime }, i) => {
      expect(hexOf(Uint8Array.of((subtype << 4) | channel, param1, ...(param2 === undefined ? [] : [param2])))).toBe(ours[i]!.hex);
      expect(Math.abs(playTime - ours[i]!.atMs)).toBeLessThan(1);
    });
    if (!existsSync(MIDO)) return;
    const mido = JSON.parse(execFileSync('/usr/bin/python3', ['-c', READ_BY_MIDO, path], { encoding: 'utf8', maxBuffer: 1e8 })) as [number, string][];
    expect(mido.map(([, hex]) => hex)).toEqual(ours.map(({ hex }) => hex));
    mido.forEach(([s], i) => expect(Math.abs(s * 1000 - ours[i]!.atMs)).toBeLessThan(1));
  });
  it('one mapping alone is one track of it', async () => {
    const read = readMidiFile(await file('midi', '&line=bell'));
    expect(new Set(read.messages.map(({ track }) => track))).toEqual(new Set(['Bell and rigging: Bell']));
    expect(read.messages.filter(({ bytes }) => bytes[0]! >> 4 === 9)).toHaveLength(5);
  });
  it('whole, is taken in by another Pumice and renders to the same bytes; broken, it is refused with a sentence', async () => {
    const whole = new TextDecoder().decode(await file('take'));
    const { take } = await takeIn('crossing.json', whole);
    expect(take).toMatchObject({ name: 'Crossing', lengthMs: crossing.take.lengthMs, events: crossing.take.events });
    const again = await renderedTake(pumice, take.id);
    expect(again.score).toEqual(crossing.score);
    expect((await fetch(`${pumice.url}/api/takes/${take.id}/render`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })).status).toBe(200);
    const rendered = await waitFor('the other version', async () => {
      const detail = (await (await fetch(`${pumice.url}/api/takes/${take.id}`)).json()) as TakeDetail;
      return detail.versions.length === 2 ? detail : null;
    });
    expect(rendered.versions[1]).toMatchObject({ name: 'Through Night Ferry', messages: crossing.score.length });
    expect((await takeIn('cut.json', whole.slice(0, -200))).problem!.message).toBe('This take cannot be taken in: the file is not whole.');
    expect((await takeIn('other.json', whole.replace('"version":1', '"version":99'))).problem!.message).toContain('newer version');
    expect((await takeIn('other.json', whole.replace(/"pieces":\["..../, '"pieces":["////'))).problem!.message).toContain('not whole');
    expect((await fetch(`${pumice.url}/api/takes/${take.id}`, { method: 'DELETE' })).status).toBe(200);
    expect((await fetch(`${pumice.url}/api/takes/${take.id}`)).status).toBe(404);
  });
  it('its signals are what Inputs plays, and as a take they move the same mappings', async () => {
    const csv = new TextDecoder().decode(await file('csv'));
    expect(csv.split('\n')[0]).toBe('time,signal,value');
    const lines = new TextDecoder().decode(await file('jsonl')).trim().split('\n');
    expect(csv.trim().split('\n')).toHaveLength(lines.length + 1);
    const { take, remarks } = await takeIn('fog.csv', csv);
    expect(remarks).toEqual([]);
    const { score } = await renderedTake(pumice, take.id);
    const fog = (of: readonly ScoreMessage[]) => of.filter(({ source }) => source.mapping === 'swell').map(({ bytes }) => bytes[2]);
    expect(fog(score).length).toBeGreaterThan(100);
    expect((await takeIn('else.csv', 'time,signal,value\n0,anchor,1\n')).problem!.message).toContain('has none of the signals of this file (anchor');
    expect((await takeIn('noise.bin', Uint8Array.of(0, 1, 2, 3))).problem!.message).toContain('This is no MIDI file, no take');
  });
  it('is rendered from the command line, as it was played and through a better rig', async () => {
    const [take, mid, json, better, other] = ['crossing.json', 'a.mid', 'a.jsonl', 'better.json', 'b.jsonl'].map((name) => join(folder, name)) as [string, string, string, string, string];
    writeFileSync(take, await file('take'));
    // Not in turn with everything else: a connection that the server closes meanwhile would be taken for an open one.
    const run = (...args: string[]) => promisify(execFile)(process.execPath, ['--import', 'tsx', 'bin/render.ts', ...args]);
    await run('--take', take, '--out', mid, '--out', json);
    const read = (path: string) => readFileSync(path, 'utf8').trim().split('\n').map((line) => JSON.parse(line) as { output: string; bytes: string; mapping: string });
    expect(read(json).map(({ output, bytes }) => `${output} ${bytes}`)).toEqual(asSent(crossing.score));
    expect(Buffer.compare(readFileSync(mid), Buffer.from(await file('midi')))).toBe(0);
    const { document } = await pumice.playing();
    writeFileSync(better, JSON.stringify({ ...document, mappings: document.mappings.map((mapping) => (mapping.id === 'swell' ? { ...mapping, message: { kind: 'controlChange', channel: 9, controller: 99, range: [0, 127] } } : mapping)) }));
    await run('--take', take, '--rig', better, '--out', other);
    expect(read(other).filter(({ mapping }) => mapping === 'swell').every(({ bytes }) => bytes.startsWith('B8 63'))).toBe(true);
    // The example that ships with the program, as the README has it.
    expect((await run('--take', 'docs/examples/crossing.json', '--out', other)).stdout).toMatch(/: \d{4} messages/);
    await expect(run('--take', better, '--out', other)).rejects.toThrow('cannot be taken in');
    await expect(run('--take', take)).rejects.toThrow('Usage');
  });
});
