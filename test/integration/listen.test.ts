import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { voiceRig } from '../../src/core/engine/voices/testVoices';
import { SAMPLE_RATE_HZ } from '../../src/core/listening/audio';
import { LISTENER_SETTINGS, Listener } from '../../src/core/listening/listener';
import { hops, melody, sing } from '../../src/core/listening/testSinging';
import { MouthDrummer, type MouthSound } from '../../src/core/standIn/mouthDrummer';
import { seededNoise } from '../../src/core/standIn/noise';
import { writeWav } from '../helpers/singing';

const folder = mkdtempSync(join(tmpdir(), 'pumice-listen-'));
const file = (name: string) => join(folder, name);
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const listen = (...args: string[]) => spawnSync(process.execPath, ['--import', 'tsx', 'bin/listen.ts', ...args], { encoding: 'utf8' });
interface Line {
  timeMs: number;
  pitchHz?: number;
  clarity?: number;
  levelDb?: number;
  vowel?: string | null;
  sound?: string | null;
  strength?: number;
  onsetMs?: number;
  voice?: number;
  kind?: 'on' | 'move' | 'off';
  pitch?: number;
}
const lines = (name: string): Line[] => readFileSync(file(name), 'utf8').trim().split('\n').map((line) => JSON.parse(line) as Line);

function drum(sounds: readonly MouthSound[], seed: number): Float32Array {
  const drummer = new MouthDrummer(SAMPLE_RATE_HZ, seed);
  const noise = seededNoise(seed);
  let struck = 0;
  return Float32Array.from({ length: SAMPLE_RATE_HZ * (0.4 * sounds.length + 0.4) }, (_, i) => {
    if (struck < sounds.length && i / SAMPLE_RATE_HZ >= 0.2 + 0.4 * struck) {
      drummer.strike(sounds[struck]!, 0.5 + 0.1 * (struck % 5));
      struck++;
    }
    return drummer.sample() + 0.0005 * noise();
  });
}

describe('bin/listen.ts', () => {
  const tune = [57, 60, 62, 64];
  const at = melody(tune, 4, 30);
  writeWav(file('sung.wav'), sing(1.2, (timeS) => ({ hz: at(timeS), voice: timeS < 1 ? 0.6 : 0 })));

  it('says each hop, and each note once, in time that has passed', () => {
    expect(listen('--in', file('sung.wav'), '--out', file('heard.jsonl'))).toMatchObject({ status: 0, stderr: '' });
    const heard = lines('heard.jsonl');
    const hops = heard.filter(({ pitchHz }) => pitchHz !== undefined);
    expect(hops).toHaveLength(Math.floor((1.2 * SAMPLE_RATE_HZ) / 128));
    expect(Object.keys(hops[0]!)).toEqual(['timeMs', 'pitchHz', 'clarity', 'levelDb']);
    expect(hops[99]!.timeMs).toBeCloseTo((100 * 128) / 48, 2);
    expect(Math.abs(hops[80]!.pitchHz! / 220 - 1)).toBeLessThan(0.025);
    const notes = heard.filter(({ kind }) => kind === 'on');
    expect(notes.map(({ pitch }) => Math.round(pitch!))).toEqual(tune);
    expect(heard.filter(({ kind }) => kind === 'off')).toHaveLength(4);
    expect(heard.map(({ timeMs }) => timeMs)).toEqual(heard.map(({ timeMs }) => timeMs).sort((a, b) => a - b));
  });

  it('hears the same of another rate', () => {
    const low = sing(1.2, (timeS) => ({ hz: at(timeS), voice: timeS < 1 ? 0.6 : 0 }));
    writeWav(file('low.wav'), low.filter((_, i) => i % 3 === 0), SAMPLE_RATE_HZ / 3);
    expect(listen('--in', file('low.wav'), '--out', file('low.jsonl')).status).toBe(0);
    expect(lines('low.jsonl').filter(({ kind }) => kind === 'on').map(({ pitch }) => Math.round(pitch!))).toEqual(tune);
  });

  it('knows vowels and mouth sounds that it was taught, and plays a rig by what it hears', () => {
    const vowels = ['heed', 'hod', 'whod'] as const;
    writeWav(file('cal.wav'), sing(3, (timeS) => ({ hz: 150, vowel: vowels[Math.floor(timeS)]!, voice: 0.6 })));
    writeFileSync(file('cal.json'), JSON.stringify(vowels.map((vowel, i) => ({ fromMs: 1000 * i, toMs: 1000 * (i + 1), vowel }))));
    writeWav(file('k.wav'), drum(Array<MouthSound>(6).fill('k'), 3));
    writeWav(file('ts.wav'), drum(Array<MouthSound>(6).fill('ts'), 4));
    writeWav(file('both.wav'), drum(['k', 'ts', 'ts', 'k'], 9));
    const taught = ['--vowels', file('cal.wav'), '--labels', file('cal.json'), '--sound', `k=${file('k.wav')}`, '--sound', `ts=${file('ts.wav')}`];
    expect(listen('--in', file('both.wav'), '--out', file('both.jsonl'), ...taught)).toMatchObject({ status: 0, stderr: '' });
    const strikes = lines('both.jsonl').filter(({ onsetMs }) => onsetMs !== undefined);
    expect(strikes.map(({ sound }) => sound)).toEqual(['k', 'ts', 'ts', 'k']);
    strikes.forEach(({ timeMs, onsetMs }, i) => {
      expect(Math.abs(onsetMs! - (200 + 400 * i))).toBeLessThan(5);
      expect(timeMs - onsetMs!).toBeLessThanOrEqual(20);
    });

    const rig = voiceRig({ stream: 'sung', layout: { kind: 'mono', channel: 1, priority: 'last', legato: true, glideMs: 0 } });
    rig.inputs.push({ id: 'foghorn', name: 'Foghorn', kind: 'microphone', device: { report: 'microphone', slot: 1 } });
    rig.streams.push({ id: 'sung', name: 'Sung', input: 'foghorn', source: 'sung' });
    rig.signals.push({ id: 'foghorn.level', name: 'Loudness', input: 'foghorn', kind: 'continuous', unit: 'dB', range: [-60, 0], source: 'level' });
    rig.mappings.push({ id: 'loud', name: 'Loud', on: true, signal: 'foghorn.level', shaping: {}, output: 'weather', message: { kind: 'controlChange', channel: 2, controller: 7, range: [0, 127] } });
    writeFileSync(file('rig.json'), JSON.stringify(rig));
    expect(listen('--in', file('sung.wav'), '--out', file('sung.jsonl'), ...taught, '--rig', file('rig.json'), '--messages', file('messages.jsonl'))).toMatchObject({ status: 0, stderr: '' });
    expect(new Set(lines('sung.jsonl').flatMap(({ timeMs, vowel }) => (timeMs > 100 && timeMs < 950 && vowel ? [vowel] : [])))).toEqual(new Set(['hod']));
    const messages = readFileSync(file('messages.jsonl'), 'utf8').trim().split('\n').map((line) => (JSON.parse(line) as { bytes: string }).bytes);
    expect(messages.filter((bytes) => bytes.startsWith('90')).map((bytes) => parseInt(bytes.slice(3, 5), 16))).toEqual(tune);
    expect(messages.filter((bytes) => bytes.startsWith('80'))).toHaveLength(4);
    expect(messages.some((bytes) => bytes.startsWith('B1 07'))).toBe(true);
  });

  it.each([
    [['--in', file('none.wav'), '--out', file('x')], 'cannot be read as a wav file'],
    [['--in', file('cal.json'), '--out', file('x')], 'cannot be read as a wav file'],
    [['--out', file('x')], 'Say what to listen to'],
    [['--in', file('sung.wav'), '--out', file('x'), '--vowels', file('sung.wav')], '--vowels wants --labels'],
    [['--in', file('sung.wav'), '--out', file('x'), '--sound', 'k'], 'expected a name and a file'],
    [['--in', file('sung.wav'), '--out', file('no/such/x')], 'cannot be written'],
  ])('says in one sentence what is wrong: %j', (args, sentence) => {
    const { status, stderr } = listen(...args);
    expect(status).toBe(1);
    expect(stderr).toContain(sentence);
    expect(stderr.trim().split('\n')).toHaveLength(1);
  });

  it.skipIf(!existsSync('/usr/bin/aubiopitch'))('agrees with an independent tracker', () => {
    writeWav(file('steady.wav'), sing(1, () => ({ hz: 196, voice: 0.6 })));
    const theirs = execFileSync('aubiopitch', ['-i', file('steady.wav'), '-p', 'yinfast', '-B', '2048', '-H', '512'], { encoding: 'utf8' }).trim().split('\n').map((line) => Number(line.split(/\s+/)[1])).slice(20, -5);
    listen('--in', file('steady.wav'), '--out', file('steady.jsonl'));
    const ours = lines('steady.jsonl').flatMap(({ pitchHz }) => pitchHz ?? []).slice(100, -20);
    const middle = (numbers: number[]) => numbers.sort((a, b) => a - b)[numbers.length >> 1]!;
    expect(Math.abs(1200 * Math.log2(middle(ours) / middle(theirs)))).toBeLessThan(5);
  });

  // Burg's method and autocorrelation of the whole recording, as phoneticians measure; where the program is on the machine.
  it.skipIf(!existsSync('/usr/bin/praat'))('agrees with what phoneticians measure with', () => {
    writeFileSync(file('measure.praat'), ['form Measure', 'sentence File', 'endform', 'sound = Read from file: file$', 'To Pitch: 0, 75, 600', 'hz = Get value at time: 0.4, "Hertz", "linear"', 'selectObject: sound', 'To Formant (burg): 0, 5, 5500, 0.025, 50', 'f1 = Get value at time: 1, 0.4, "hertz", "linear"', 'f2 = Get value at time: 2, 0.4, "hertz", "linear"', 'writeInfoLine: hz, " ", f1, " ", f2'].join('\n'));
    for (const [tract, vowel] of [['men', 'heed'], ['men', 'hod'], ['men', 'whod'], ['laterMen', 'head'], ['laterMen', 'had'], ['laterMen', 'hud'], ['women', 'hawed']] as const) {
      const samples = sing(0.6, () => ({ hz: 131, vowel, voice: 0.6 }), { tract });
      writeWav(file('vowel.wav'), samples);
      const [hz, first, second] = execFileSync('praat', ['--run', file('measure.praat'), file('vowel.wav')], { encoding: 'utf8' }).trim().split(/\s+/).map(Number);
      const listener = new Listener(LISTENER_SETTINGS, { begins: () => undefined, moves: () => undefined, ends: () => undefined, strikes: () => undefined });
      hops(samples.subarray(0, 0.4 * SAMPLE_RATE_HZ), (block) => listener.push(block));
      expect(Math.abs(1200 * Math.log2(listener.pitch.hz / hz!)), `${tract} ${vowel}, pitch`).toBeLessThan(3);
      expect(Math.abs(listener.openFront.firstHz / first! - 1), `${tract} ${vowel}, first formant`).toBeLessThan(0.1);
      expect(Math.abs(listener.openFront.secondHz / second! - 1), `${tract} ${vowel}, second formant`).toBeLessThan(0.06);
    }
  });
});
