// npx tsx bin/render.ts --rig rig.json --samples samples.jsonl --out take.mid: plays recorded samples through a rig, with
// the engine that plays live, as fast as it can; lines of voices may stand beside them. `--log events.jsonl` instead replays everything that an engine was given:
// samples, ticks, scenes, edits, thru. `--take crossing.json [--rig better.json]` renders a take that was handed over, as it was
// played or through another rig. `--out` may be given twice: a name that ends in .mid becomes a Standard MIDI File,
// any other JSON lines. `--seed N` sets everything random.
import { createReadStream, statSync, writeFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { parseArgs } from 'node:util';
import Joi, { type Schema } from 'joi';
import type { Engine } from '../src/core/engine/engine';
import type { EngineEvent } from '../src/core/engine/event';
import { fromLog, type LoggedEvent } from '../src/core/engine/eventLog';
import type { RigDocument } from '../src/core/rig/document';
import { check } from '../src/protocol/check';
import { loggedEventSchema, voiceLineSchema } from '../src/protocol/eventLog';
import { LIMITS } from '../src/protocol/limits';
import { writeMidiFile } from '../src/protocol/midiFile';
import { checkRig } from '../src/protocol/rig';
import { readRig, rendering, TICK_MS, type Rendered } from './rendering';
import { renderTakeFile } from './renderTake';

/** How long smoothing and notes may go on after the last sample. */
const TAIL_MS = 10_000;
const PROGRESS_MS = 1000;

interface Sample {
  signal: string;
  timeMs: number;
  value: number;
}

const sampleSchema = Joi.object<Sample>({ signal: Joi.string().required(), timeMs: Joi.number().required(), value: Joi.number().required() });

function fail(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

/** The lines of a file that hold something, and how far it was read is said now and then. */
async function* linesOf(file: string): AsyncGenerator<{ text: string; line: number }> {
  const size = statSync(file).size;
  let read = 0;
  let line = 0;
  let saidMs = Date.now();
  for await (const text of createInterface({ input: createReadStream(file), crlfDelay: Infinity })) {
    line++;
    read += text.length + 1;
    if (text.trim() !== '') yield { text, line };
    if (Date.now() - saidMs > PROGRESS_MS) {
      saidMs = Date.now();
      process.stderr.write(`${Math.round((100 * read) / size)} %, ${line} lines\n`);
    }
  }
}

/** Samples with ticks between them, as the hub makes them. */
async function renderSamples(rig: RigDocument, file: string, seed: number): Promise<Rendered[]> {
  const { engine, rendered } = rendering(rig, seed);
  let nextTickMs = NaN;
  const ticksUntil = (timeMs: number) => {
    for (; nextTickMs <= timeMs; nextTickMs += TICK_MS) if (engine.pending) engine.take({ kind: 'tick', timeMs: nextTickMs });
  };
  for await (const { text, line } of linesOf(file)) {
    const event = readEvent(engine, text, file, line);
    const { timeMs } = event;
    if (Number.isNaN(nextTickMs)) {
      engine.take({ kind: 'start', timeMs });
      nextTickMs = timeMs + TICK_MS;
    }
    if (timeMs - nextTickMs > LIMITS.takeMs) fail(`${file}, line ${line}: its time lies more than ${LIMITS.takeMs / 3_600_000} hours after that of the line before.`);
    ticksUntil(timeMs);
    engine.take(event);
  }
  const endMs = nextTickMs + TAIL_MS;
  while (engine.pending && nextTickMs < endMs) ticksUntil(nextTickMs);
  engine.take({ kind: 'release', timeMs: nextTickMs });
  return rendered;
}

/** A sample, or something of a voice, which names a stream. */
function readEvent(engine: Engine, text: string, file: string, line: number): EngineEvent {
  const sentence = 'a line must be JSON, as {"signal": "fog", "timeMs": 12.5, "value": 0.4} or {"stream": "hull", "voice": 3, "timeMs": 12.5, "kind": "on", "pitch": 60.2}';
  if (text.includes('"stream"')) {
    const voice = readLine<LoggedEvent & { stream: string }>(voiceLineSchema as Schema, text, file, line, sentence);
    return fromLog(voice, engine.plan) ?? fail(`${file}, line ${line}: the rig has no stream "${voice.stream}".`);
  }
  const { signal, timeMs, value } = readLine(sampleSchema, text, file, line, sentence);
  const index = engine.plan.signalIndex.get(signal);
  return index === undefined ? fail(`${file}, line ${line}: the rig has no signal "${signal}".`) : { kind: 'sample', signal: index, timeMs, value };
}

/** Everything that an engine was given, again. */
async function renderLog(rig: RigDocument, file: string, seed: number): Promise<Rendered[]> {
  const { engine, rendered } = rendering(rig, seed);
  for await (const { text, line } of linesOf(file)) {
    let logged = readLine(loggedEventSchema, text, file, line, 'an event must be JSON, as {"kind": "recall", "timeMs": 12.5, "scene": "fog-bank"}');
    if (logged.kind === 'rig') {
      const checked = checkRig(logged.rig);
      if (!checked.ok) fail(`${file}, line ${line}: ${checked.problems[0]!.message}`);
      // One of an earlier version is brought up to date.
      logged = { ...logged, rig: checked.value };
    }
    const event = fromLog(logged, engine.plan);
    if (!event) fail(`${file}, line ${line}: the rig has nothing of that id.`);
    engine.take(event);
  }
  return rendered;
}

function readLine<T>(schema: Schema<T>, text: string, file: string, line: number, sentence: string): T {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    return fail(`${file}, line ${line}: ${sentence}.`);
  }
  const checked = check(schema, parsed);
  return checked.ok ? checked.value : fail(`${file}, line ${line}: ${checked.problems[0]!.message}.`);
}

const { values: options } = parseArgs({
  options: { rig: { type: 'string' }, samples: { type: 'string' }, log: { type: 'string' }, take: { type: 'string' }, out: { type: 'string', multiple: true }, seed: { type: 'string', default: '1' } },
});
const { samples, log, take } = options;
const given = [samples, log, take].filter((what) => what !== undefined).length;
if (!options.out || given !== 1 || (!options.rig && take === undefined)) {
  fail('Usage: npx tsx bin/render.ts --rig rig.json (--samples samples.jsonl | --log events.jsonl) --out take.mid [--out messages.jsonl] [--seed 1]\n       npx tsx bin/render.ts --take crossing.json [--rig better.json] --out take.mid');
}
const rig = options.rig === undefined ? null : readRig(options.rig, fail);
if (take !== undefined) {
  renderTakeFile(take, rig, options.out, fail);
  process.exit(0);
}
const seed = Number(options.seed);
const messages = samples === undefined ? await renderLog(rig!, log!, seed) : await renderSamples(rig!, samples, seed);
for (const out of options.out) {
  if (out.endsWith('.mid')) {
    const startMs = messages[0]?.timeMs ?? 0;
    const timed = messages.map(({ timeMs, output, bytes }) => ({
      timeMs: timeMs - startMs,
      track: rig!.outputs.find(({ id }) => id === output)!.name,
      bytes: Uint8Array.from(bytes.split(' '), (byte) => parseInt(byte, 16)),
    }));
    writeFileSync(out, writeMidiFile(timed, rig!.tempoBpm));
  } else writeFileSync(out, messages.map((message) => `${JSON.stringify(message)}\n`).join(''));
  console.log(`${out}: ${messages.length} messages`);
}
