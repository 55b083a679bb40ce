// npx tsx bin/render.ts --rig rig.json --samples samples.jsonl --out take.mid: plays recorded samples through a rig, with
// the engine that plays live, as fast as it can. `--out` may be given twice: a name that ends in .mid becomes a Standard
// MIDI File, any other JSON lines. `--seed N` sets everything random.
import { createReadStream, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { parseArgs } from 'node:util';
import Joi from 'joi';
import { hexOf } from '../src/core/midi/describe';
import { splitMessages } from '../src/core/midi/decode';
import { Engine } from '../src/core/engine/engine';
import type { RigDocument } from '../src/core/rig/document';
import { check } from '../src/protocol/check';
import { writeMidiFile } from '../src/protocol/midiFile';
import { checkRig } from '../src/protocol/rig';

/** Ticks between samples, as the hub makes them. */
const TICK_MS = 4;
/** How long smoothing and notes may go on after the last sample. */
const TAIL_MS = 10_000;
const PROGRESS_MS = 1000;

interface Sample {
  signal: string;
  timeMs: number;
  value: number;
}

const sampleSchema = Joi.object<Sample>({ signal: Joi.string().required(), timeMs: Joi.number().required(), value: Joi.number().required() });

interface Rendered {
  timeMs: number;
  output: string;
  bytes: string;
  mapping: string | null;
}

function fail(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

function readRig(file: string): RigDocument {
  let parsed: unknown;
  try {
    parsed = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    return fail(`${file} cannot be read as JSON (${(error as Error).message}).`);
  }
  const checked = checkRig(parsed);
  return checked.ok ? checked.value : fail([`${file} is not a rig of this version:`, ...checked.problems.map(({ message }) => `  ${message}`)].join('\n'));
}

async function render(rig: RigDocument, samplesFile: string, seed: number): Promise<Rendered[]> {
  const rendered: Rendered[] = [];
  const engine: Engine = new Engine(
    rig,
    {
      midi(output, mapping, bytes, length) {
        const to = engine.plan.outputIds[output]!;
        const from = engine.plan.mappings[mapping]?.rig.id ?? null;
        for (const message of splitMessages(bytes.slice(0, length))) rendered.push({ timeMs: engine.messageMs, output: to, bytes: hexOf(message), mapping: from });
      },
      osc: () => undefined,
    },
    seed,
  );
  const size = statSync(samplesFile).size;
  let nextTickMs = NaN;
  let read = 0;
  let line = 0;
  let saidMs = Date.now();
  const ticksUntil = (timeMs: number) => {
    for (; nextTickMs <= timeMs; nextTickMs += TICK_MS) if (engine.pending) engine.take({ kind: 'tick', timeMs: nextTickMs });
  };
  for await (const text of createInterface({ input: createReadStream(samplesFile), crlfDelay: Infinity })) {
    line++;
    read += text.length + 1;
    if (text.trim() === '') continue;
    const { signal, timeMs, value } = readSample(text, samplesFile, line);
    const index = engine.plan.signalIndex.get(signal);
    if (index === undefined) fail(`${samplesFile}, line ${line}: the rig has no signal "${signal}".`);
    if (Number.isNaN(nextTickMs)) {
      engine.take({ kind: 'start', timeMs });
      nextTickMs = timeMs + TICK_MS;
    }
    ticksUntil(timeMs);
    engine.take({ kind: 'sample', signal: index, timeMs, value });
    if (Date.now() - saidMs > PROGRESS_MS) {
      saidMs = Date.now();
      process.stderr.write(`${Math.round((100 * read) / size)} %, ${line} samples, ${rendered.length} messages\n`);
    }
  }
  const endMs = nextTickMs + TAIL_MS;
  while (engine.pending && nextTickMs < endMs) ticksUntil(nextTickMs);
  engine.take({ kind: 'release', timeMs: nextTickMs });
  return rendered;
}

function readSample(text: string, file: string, line: number): Sample {
  try {
    const checked = check(sampleSchema, JSON.parse(text));
    return checked.ok ? checked.value : fail(`${file}, line ${line}: ${checked.problems[0]!.message}.`);
  } catch {
    return fail(`${file}, line ${line}: a sample must be JSON, as {"signal": "fog", "timeMs": 12.5, "value": 0.4}.`);
  }
}

const { values: options } = parseArgs({
  options: { rig: { type: 'string' }, samples: { type: 'string' }, out: { type: 'string', multiple: true }, seed: { type: 'string', default: '1' } },
});
if (!options.rig || !options.samples || !options.out) {
  fail('Usage: npx tsx bin/render.ts --rig rig.json --samples samples.jsonl --out take.mid [--out messages.jsonl] [--seed 1]');
}
const rig = readRig(options.rig);
const messages = await render(rig, options.samples, Number(options.seed));
for (const out of options.out) {
  if (out.endsWith('.mid')) {
    const startMs = messages[0]?.timeMs ?? 0;
    const timed = messages.map(({ timeMs, output, bytes }) => ({
      timeMs: timeMs - startMs,
      track: rig.outputs.find(({ id }) => id === output)!.name,
      bytes: Uint8Array.from(bytes.split(' '), (byte) => parseInt(byte, 16)),
    }));
    writeFileSync(out, writeMidiFile(timed, rig.tempoBpm));
  } else writeFileSync(out, messages.map((message) => `${JSON.stringify(message)}\n`).join(''));
  console.log(`${out}: ${messages.length} messages`);
}
