import { readFileSync, writeFileSync } from 'node:fs';
import { splitMessages } from '../src/core/midi/decode';
import { hexOf } from '../src/core/midi/describe';
import type { RigDocument } from '../src/core/rig/document';
import { lastRig } from '../src/core/takes/log';
import { TakeRenderer } from '../src/core/takes/render';
import type { ScoreMessage } from '../src/core/takes/score';
import { checkRig } from '../src/protocol/rig';
import { beginningOf } from '../src/protocol/takes';
import { tempoMap } from '../src/core/takes/tempoMap';
import { midiFile } from '../src/server/takes/giveFiles';
import { readWholeTake } from '../src/server/takes/takeFiles';

/**
 * Renders a take that was handed over as JSON, as it was played or through another rig, and writes what it sends: a name that ends
 * in .mid becomes the MIDI file that the program hands over, any other JSON lines. What the rig does not have is said.
 */
export function renderTakeFile(file: string, through: RigDocument | null, outs: readonly string[], fail: (sentence: string) => never): void {
  const taken = ((): ReturnType<typeof readWholeTake> => {
    try {
      return readWholeTake(readFileSync(file, 'utf8'));
    } catch (error) {
      return fail(`${file}: ${(error as Error).message}`);
    }
  })();
  const { start, pieces, lengthMs, marks } = taken;
  const beginning = beginningOf(start);
  const messages: ScoreMessage[] = [];
  const renderer = new TakeRenderer(
    beginning,
    {
      midi: (timeMs, source, bytes, length) => splitMessages(bytes.slice(0, length)).forEach((message) => messages.push({ atMs: timeMs - beginning.startMs, source, bytes: message })),
      osc: () => undefined,
    },
    { read: (rig) => upToDate(rig, fail), ...(through && { through }) },
  );
  for (const piece of pieces) renderer.piece(piece);
  renderer.end(Math.max(renderer.lastMs, beginning.startMs + lengthMs));
  for (const [what, count] of renderer.leftOut) console.error(`${what} is not in this rig: left out ${count} times.`);
  const after = through ? null : lastRig(beginning.rig, pieces);
  const rigs: [RigDocument, ...RigDocument[]] = [through ?? upToDate(beginning.rig, fail), ...(after ? [upToDate(after, fail)] : [])];
  for (const out of outs) {
    if (out.endsWith('.mid')) writeFileSync(out, midiFile(messages, rigs, marks, 1, null, through ? undefined : tempoMap(beginning, pieces)));
    else writeFileSync(out, messages.map(({ atMs, source, bytes }) => `${JSON.stringify({ timeMs: atMs, output: source.output, bytes: hexOf(bytes), who: source.who, mapping: source.mapping })}\n`).join(''));
    console.log(`${out}: ${messages.length} messages`);
  }
}

/** A rig of an earlier version as it is today. */
function upToDate(rig: RigDocument, fail: (sentence: string) => never): RigDocument {
  const checked = checkRig(rig);
  return checked.ok ? checked.value : fail(`The rig of this take cannot be read any more: ${checked.problems[0]!.message}`);
}
