import { describe, expect, it } from 'vitest';
import type { VoiceEvent } from '../voices/event';
import { HOP, HOP_MS } from './audio';
import { LISTENER_SETTINGS } from './listener';
import { MicrophoneInput } from './microphoneInput';
import { FIRST_SOUND_NOTE, SOUND_MS } from './microphoneSources';
import { hops, sing } from './testSinging';

const silence = new Float32Array(HOP);
const SOUNDS = ['k', 'ts'].map((name) => ({ name, examples: [] }));

function microphone() {
  const said: string[] = [];
  const voices: ({ stream: string } & Pick<VoiceEvent, 'kind' | 'voice' | 'pitch' | 'strike' | 'slide'>)[] = [];
  const values: Record<string, number> = {};
  const input: MicrophoneInput = new MicrophoneInput(
    { ...LISTENER_SETTINGS, sounds: SOUNDS },
    {
      values: (list) => {
        for (const { key, value } of list) {
          values[key] = value;
          if (key.startsWith('sound')) said.push(`${key} ${value}`);
        }
      },
      voice: (stream, { kind, voice, pitch, strike, slide }) => {
        said.push(`${stream} ${kind} ${voice}`);
        voices.push({ stream, kind, voice, pitch, strike, slide });
      },
      strikes: (sound) => void said.push(`heard ${sound}`),
    },
  );
  const silent = (ms: number) => {
    for (let hop = 0; hop < Math.ceil(ms / HOP_MS); hop++) input.push(silence);
  };
  return { input, said, voices, values, silent };
}

describe('what a microphone says', () => {
  it('a mouth sound is a gate and a voice, over when its time has passed in audio', () => {
    const { input, said, voices, silent } = microphone();
    silent(10);
    input.strikes('ts', 0.5, 0);
    silent(SOUND_MS - HOP_MS);
    expect(said).toEqual(['heard ts', 'sound ts 0.5', 'mouth on 1']);
    expect(voices[0]).toMatchObject({ pitch: FIRST_SOUND_NOTE + 1, strike: 0.5 });
    silent(2 * HOP_MS);
    expect(said.slice(3)).toEqual(['sound ts 0', 'mouth off 1']);
  });

  it('the same sound again before that is struck again: the first ends, and its end does not cut the second', () => {
    const { input, said, silent } = microphone();
    input.strikes('k', 0.5, 0);
    silent(50);
    input.strikes('k', 0.8, 50);
    silent(SOUND_MS - 2 * HOP_MS);
    expect(said).toEqual(['heard k', 'sound k 0.5', 'mouth on 1', 'heard k', 'sound k 0', 'mouth off 1', 'sound k 0.8', 'mouth on 2']);
    silent(3 * HOP_MS);
    expect(said.slice(8)).toEqual(['sound k 0', 'mouth off 2']);
  });

  it('sounds that overlap end each in its time; the softest still presses its gate; an unknown one is told and nothing else', () => {
    const { input, said, silent } = microphone();
    input.strikes('k', 0, 0);
    silent(30);
    input.strikes('ts', 1, 30);
    input.strikes(null, 1, 30);
    silent(2 * SOUND_MS);
    expect(said).toEqual(['heard k', 'sound k 0.01', 'mouth on 1', 'heard ts', 'sound ts 1', 'mouth on 2', 'heard null', 'sound k 0', 'mouth off 1', 'sound ts 0', 'mouth off 2']);
  });

  it('while a sound is taught it is told and plays nothing', () => {
    const { input, said, silent } = microphone();
    input.teaching = true;
    input.strikes('k', 1, 0);
    silent(100);
    expect(said).toEqual(['heard k']);
  });

  it('stopped, everything that sounds ends at once and once', () => {
    const { input, said, voices } = microphone();
    hops(sing(0.3, () => ({ hz: 220, voice: 0.6 })), (block) => input.push(block));
    input.strikes('k', 1, 0);
    said.length = 0;
    input.stop();
    input.stop();
    expect(said).toEqual(['sung off 1', 'sound k 0', 'mouth off 1']);
    expect(voices.filter(({ kind }) => kind === 'on')).toHaveLength(2);
  });

  it('says what is sung with how open the mouth is, and how loud it is with the times of its profile', () => {
    const { input, voices, values } = microphone();
    input.follow(0, 1000);
    hops(sing(0.4, () => ({ hz: 220, vowel: 'hod', voice: 0.6 })), (block) => input.push(block));
    const on = voices.find(({ kind }) => kind === 'on')!;
    expect(Math.abs(on.pitch - 57)).toBeLessThan(0.3);
    expect(on.slide).toBeGreaterThanOrEqual(0);
    expect(voices.filter(({ kind }) => kind === 'move').length).toBeGreaterThan(20);
    const loud = values.level!;
    for (let hop = 0; hop < Math.ceil(1000 / HOP_MS); hop++) input.push(silence);
    // 63 % of the way to silence after its release: 1 - 1/e of what lies between.
    expect(Math.abs((values.level! - loud) / (-120 - loud) - (1 - Math.exp(-1)))).toBeLessThan(0.02);
  });
});
