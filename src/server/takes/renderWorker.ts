import { parentPort } from 'node:worker_threads';
import { splitMessages } from '../../core/midi/decode';
import { lanesOf } from '../../core/takes/lanes';
import { columnsOf, ScoreTable } from '../../core/takes/scoreTable';
import { sketchOf, type Sketch } from '../../core/takes/sketch';
import { TakeRenderer } from '../../core/takes/render';
import { readScore, ScoreWriter } from '../../core/takes/score';
import { tempoMap } from '../../core/takes/tempoMap';
import { tidy, type TidyStep } from '../../core/takes/tidy';
import type { RigDocument } from '../../core/rig/document';
import { encodeOsc } from '../../net/osc/codec';
import { checkRig } from '../../protocol/rig';
import { beginningOf } from '../../protocol/takes';
import { lastRig } from '../../core/takes/log';
import { shownBeyond, shownOf, shownTogether, type ShownBeyond, type TakeRig } from '../../core/takes/shown';
import type { Mark } from '../../core/takes/take';
import type { TakeStart } from '../storage/takeRepository';
import { midiFile } from './giveFiles';

/** What the worker is given, one after another. */
export type ToRenderer = { kind: 'begin'; start: TakeStart; through: string | null } | { kind: 'pieces'; pieces: Uint8Array[] } | { kind: 'end'; lastMs: number } | { kind: 'midi'; score: Uint8Array[]; rig: string; marks: Mark[]; format: 0 | 1; line: string | null; /** What it was rendered from, which knows the edits and, at the same times, the tempi; null where it went through another rig. */ from: { start: TakeStart; log: Uint8Array[]; sameTimes: boolean } | null } | { kind: 'tidy'; score: Uint8Array[]; recipe: TidyStep[]; bpm: number; bendSemitones: Record<string, number> };
/** `ready`: it can take more. */
export type FromRenderer = { kind: 'ready' } | { kind: 'score'; pieces: Uint8Array[]; messages: number; leftOut: [string, number][]; sketch: Sketch | null; beyond: ShownBeyond | null } | { kind: 'file'; bytes: Uint8Array } | { kind: 'failed'; sentence: string };

const NOTHING_SHOWN: TakeRig = { tempoBpm: 0, outputs: [], mappings: [], signals: [] };
const PIECE_BYTES = 64 * 1024;

let renderer: TakeRenderer | null = null;
let writer = new ScoreWriter();
let pieces: Uint8Array[] = [];
let startMs = 0;
/** What is shown of the rig that the take begins with, and of all that follow. */
let [firstShown, allShown] = [NOTHING_SHOWN, NOTHING_SHOWN];
/** In so small a picture a bend is not seen. */
const USUAL_BEND = 2;

/** A document of a take, which an earlier version may have written. */
function readRig(rig: RigDocument): RigDocument {
  const checked = checkRig(rig);
  if (!checked.ok) throw new Error(`The rig of this take cannot be read any more: ${checked.problems[0]!.message}`);
  return checked.value;
}

/** One whose things the picture shows. */
function readShown(rig: RigDocument): RigDocument {
  const read = readRig(rig);
  allShown = shownTogether(allShown, shownOf(read));
  return read;
}

function put(atMs: number, source: Parameters<ScoreWriter['message']>[1], bytes: Uint8Array): void {
  writer.message(atMs, source, bytes);
  if (writer.length >= PIECE_BYTES) pieces.push(writer.take());
}

function obey(said: ToRenderer): FromRenderer {
  switch (said.kind) {
    case 'begin': {
      const beginning = beginningOf(said.start);
      ({ startMs } = beginning);
      const from = startMs;
      allShown = firstShown = shownOf(readRig(beginning.rig));
      writer = new ScoreWriter();
      pieces = [];
      renderer = new TakeRenderer(
        beginning,
        {
          midi: (timeMs, source, bytes, length) => {
            for (const message of splitMessages(bytes.subarray(0, length))) put(timeMs - from, source, message);
          },
          osc: (timeMs, source, path, args) => put(timeMs - from, source, encodeOsc(path, args)),
        },
        { read: readShown, ...(said.through !== null && { through: readShown(JSON.parse(said.through) as RigDocument) }) },
      );
      return { kind: 'ready' };
    }
    case 'pieces':
      for (const piece of said.pieces) renderer!.piece(piece);
      return { kind: 'ready' };
    case 'tidy': {
      const tidied = new ScoreWriter();
      for (const { atMs, source, bytes } of tidy(readScore(said.score), said.recipe, { bpm: said.bpm, bendSemitonesOf: (output) => said.bendSemitones[output] ?? USUAL_BEND }).messages) tidied.message(atMs, source, bytes);
      return { kind: 'score', pieces: [tidied.take()], messages: tidied.messages, leftOut: [], sketch: null, beyond: null };
    }
    case 'midi': {
      const { from } = said;
      const written = JSON.parse(said.rig) as RigDocument;
      const rig = readRig(written);
      // What was added while it was recorded has its name and its setting up in the document of the end.
      const after = from && lastRig(written, from.log);
      const tempi = from?.sameTimes ? tempoMap(beginningOf(from.start), from.log) : undefined;
      return { kind: 'file', bytes: midiFile(new ScoreTable(columnsOf(said.score)), after ? [rig, readRig(after)] : [rig], said.marks, said.format, said.line, tempi) };
    }
    case 'end': {
      const lengthMs = said.lastMs - startMs;
      renderer!.end(Math.max(said.lastMs, renderer!.lastMs));
      pieces.push(writer.take());
      return { kind: 'score', pieces, messages: writer.messages, leftOut: [...renderer!.leftOut], sketch: sketchOf(lanesOf(columnsOf(pieces), () => USUAL_BEND, lengthMs), lengthMs), beyond: shownBeyond(allShown, firstShown) };
    }
    default:
      return said satisfies never;
  }
}

parentPort!.on('message', (said: ToRenderer) => {
  try {
    parentPort!.postMessage(obey(said));
  } catch (error) {
    parentPort!.postMessage({ kind: 'failed', sentence: (error as Error).message } satisfies FromRenderer);
  }
});
