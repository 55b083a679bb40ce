// npx tsx bin/listen.ts --in sung.wav --out heard.jsonl: what the program hears of a recording, hop by hop, by exactly the sums of a
// live microphone. `--vowels cal.wav --labels cal.json` teaches vowels, `--sound k=k.wav` (once for each) mouth sounds; with
// `--rig rig.json --messages messages.jsonl` what is heard plays a rig. All of it as fast as it can.
import { createWriteStream, readFileSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import { parseArgs } from 'node:util';
import Joi from 'joi';
import wavefile from 'wavefile';
import { HOP, SAMPLE_RATE_HZ } from '../src/core/listening/audio';
import { LISTENER_SETTINGS, type ListenerSettings } from '../src/core/listening/listener';
import { MicrophoneInput } from '../src/core/listening/microphoneInput';
import { SOUND_MS } from '../src/core/listening/microphoneSources';
import { SOUNDS_MOST, type TaughtSound } from '../src/core/listening/mouth/taughtSounds';
import { collectSound, collectVowels, type VowelLabel } from '../src/core/listening/teach';
import type { EngineEvent } from '../src/core/engine/event';
import type { VoiceEvent } from '../src/core/voices/event';
import { check } from '../src/protocol/check';
import { readRig, rendering, TICK_MS } from './rendering';

const labelsSchema = Joi.array().items(Joi.object<VowelLabel>({ fromMs: Joi.number().min(0).required(), toMs: Joi.number().greater(Joi.ref('fromMs')).required(), vowel: Joi.string().min(1).max(40).required() })).min(1).required();

function fail(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

/** The first channel of a file, at the rate of the sums. */
function readWav(file: string): Float32Array {
  try {
    const wav = new wavefile.WaveFile(readFileSync(file));
    wav.toBitDepth('32f');
    if ((wav.fmt as { sampleRate: number }).sampleRate !== SAMPLE_RATE_HZ) wav.toSampleRate(SAMPLE_RATE_HZ, { method: 'sinc' });
    const samples = wav.getSamples(false, Float32Array) as unknown as Float32Array | Float32Array[];
    return Array.isArray(samples) ? samples[0]! : samples;
  } catch (error) {
    return fail(`${file} cannot be read as a wav file (${(error as Error).message}).`);
  }
}

function readJson(file: string): unknown {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    return fail(`${file} cannot be read as JSON (${(error as Error).message}).`);
  }
}

function readLabels(file: string): VowelLabel[] {
  const checked = check<VowelLabel[]>(labelsSchema, readJson(file));
  return checked.ok ? checked.value : fail(`${file}: ${checked.problems.map(({ message }) => message).join('; ')}`);
}

/** Plays a rig by what is heard: its first microphone says what this one does. */
function playing(file: string): { say: (key: string, timeMs: number, value: number) => void; voice: (source: string, timeMs: number, event: VoiceEvent) => void; end: (timeMs: number) => void; lines: string[] } {
  const rig = readRig(file, fail);
  const input = rig.inputs.find(({ kind }) => kind === 'microphone') ?? fail(`${file} has no microphone among its inputs: add one, or listen without --rig.`);
  const { engine, rendered } = rendering(rig, 1);
  const take = (event: EngineEvent) => {
    for (let tickMs = tickedMs + TICK_MS; tickMs < event.timeMs; tickMs += TICK_MS) {
      if (!engine.pending) {
        tickedMs = event.timeMs;
        break;
      }
      engine.take({ kind: 'tick', timeMs: (tickedMs = tickMs) });
    }
    engine.take(event);
  };
  let tickedMs = 0;
  engine.take({ kind: 'start', timeMs: 0 });
  return {
    say(key, timeMs, value) {
      const signal = rig.signals.findIndex((candidate) => candidate.input === input.id && candidate.source === key);
      if (signal >= 0) take({ kind: 'sample', timeMs, signal, value });
    },
    voice(source, timeMs, event) {
      const stream = rig.streams.findIndex((candidate) => candidate.input === input.id && candidate.source === source);
      if (stream >= 0) take({ ...event, stream, timeMs });
    },
    end(timeMs) {
      take({ kind: 'tick', timeMs });
      engine.take({ kind: 'release', timeMs });
    },
    get lines() {
      return rendered.map((message) => JSON.stringify(message));
    },
  };
}

const { values } = parseArgs({ options: { in: { type: 'string' }, out: { type: 'string' }, vowels: { type: 'string' }, labels: { type: 'string' }, sound: { type: 'string', multiple: true }, rig: { type: 'string' }, messages: { type: 'string' } } });
if (!values.in || !values.out) fail('Say what to listen to and where to write it: --in sung.wav --out heard.jsonl.');
if (Boolean(values.vowels) !== Boolean(values.labels)) fail('--vowels wants --labels beside it, and the reverse: the recording and what is sung when.');
if (Boolean(values.rig) !== Boolean(values.messages)) fail('--rig wants --messages beside it, and the reverse: what is played, and where its messages are written.');

const vowels = values.vowels ? collectVowels(readWav(values.vowels), readLabels(values.labels!)) : null;
if (vowels && vowels.vowels.length === 0) fail(`${values.vowels} holds no vowel that is long enough: a second each, sung below 400 Hz.`);
const sounds = (values.sound ?? []).map((spec): TaughtSound => {
  const [, name, file] = /^([^=]+)=(.+)$/.exec(spec) ?? [];
  if (!name || !file) return fail(`--sound ${spec}: expected a name and a file, as k=k.wav.`);
  const sound = { name, examples: collectSound(readWav(file)) };
  return sound.examples.length > 1 ? sound : fail(`${file} holds ${sound.examples.length} examples of ${name}: strike it 5 to 10 times, with pauses between.`);
});
if (sounds.length > SOUNDS_MOST) fail(`${sounds.length} mouth sounds: at most ${SOUNDS_MOST} can be taught.`);

const settings: ListenerSettings = { ...LISTENER_SETTINGS, vowels, sounds };
const out = createWriteStream(values.out);
out.on('error', (error) => fail(`${values.out} cannot be written (${error.message}).`));
const round = (value: number, digits: number) => Number(value.toFixed(digits));
const say = (line: object) => out.write(`${JSON.stringify(line)}\n`);

const played = values.rig ? playing(values.rig) : null;
const microphone: MicrophoneInput = new MicrophoneInput(settings, {
  values(list) {
    for (const { key, value } of list) played?.say(key, listener.timeMs, value);
  },
  voice(stream, event) {
    played?.voice(stream, listener.timeMs, event);
    if (stream === 'sung') say(lineOf(event));
  },
  strikes(sound, strength, onsetMs) {
    say({ timeMs: round(listener.timeMs, 3), sound, strength: round(strength, 3), onsetMs: round(onsetMs, 3) });
  },
});
const { listener } = microphone;

function lineOf({ kind, voice, pitch, strike, pressure }: VoiceEvent): object {
  const line = { timeMs: round(listener.timeMs, 3), voice, kind };
  if (kind === 'off') return line;
  return { ...line, pitch: round(pitch, 4), ...(kind === 'on' ? { strike: round(strike, 3) } : { pressure: round(pressure, 3) }) };
}

const samples = readWav(values.in);
const block = new Float32Array(HOP);
for (let at = 0; at + HOP <= samples.length; at += HOP) {
  block.set(samples.subarray(at, at + HOP));
  microphone.push(block);
  const line = { timeMs: round(listener.timeMs, 3), pitchHz: round(listener.pitch.hz, 3), clarity: round(listener.pitch.clarity, 4), levelDb: round(listener.level.db, 2) };
  if (out.writableNeedDrain) await once(out, 'drain');
  say(vowels ? { ...line, vowel: listener.vowel === null ? null : vowels.vowels[listener.vowel]!.name } : line);
}
microphone.stop();
if (played) {
  played.end(listener.timeMs + SOUND_MS);
  writeFileSync(values.messages!, played.lines.map((line) => `${line}\n`).join(''));
}
await new Promise<void>((resolve) => out.end(resolve));
