import { randomUUID } from 'node:crypto';
import Joi from 'joi';
import { compile } from '../../core/engine/plan';
import type { RigDocument } from '../../core/rig/document';
import { firstTaking } from '../../core/rig/outputs';
import { BLIND_VISITOR, LogReader, LogWriter } from '../../core/takes/log';
import { ScoreReader, ScoreWriter } from '../../core/takes/score';
import { shownBeyond, shownOf, shownTogether } from '../../core/takes/shown';
import type { Mark } from '../../core/takes/take';
import { NONE, notesOf } from '../../core/takes/notes';
import { settle, spellOutEnds } from '../../core/takes/tidy/settle';
import { check } from '../../protocol/check';
import { LIMITS } from '../../protocol/limits';
import { NoMidiFile, readMidiFile } from '../../protocol/midiFile';
import { ProblemError } from '../../protocol/problem';
import { readRecording } from '../../protocol/recordingFile';
import { checkRig } from '../../protocol/rig';
import { beginningOf, bytesOf, type TakeVersion } from '../../protocol/takes';
import { recipeSchema } from '../../protocol/takesSchema';
import type { StoredVersion, TakeStart } from '../storage/takeRepository';
import { TAKE_FORMAT, TAKE_VERSION } from './giveFiles';
import { framed, unframed } from './framing';

/** What a file holds, as a take. */
export interface TakenFile {
  start: TakeStart;
  name: string;
  lengthMs: number;
  events: number;
  marks: Mark[];
  pieces: Uint8Array[];
  versions: StoredVersion[];
  remarks: string[];
}

interface Into {
  id: string;
  document: RigDocument;
}

const TICK_MS = 4;
const PIECE_BYTES = 64 * 1024;

/** Reads a MIDI file, recorded signals, or a whole take. Throws a `ProblemError` with a sentence where it is none of them. */
export async function readTakeFile(fileName: string, bytes: Uint8Array, rig: Into, nowMs: number): Promise<TakenFile> {
  const name = fileName.replace(/\.[^.]*$/, '').trim().slice(0, LIMITS.nameLength) || 'Taken in';
  if (String.fromCharCode(...bytes.subarray(0, 4)) === 'MThd') return midiTake(name, bytes, rig, nowMs);
  const text = new TextDecoder().decode(bytes);
  return text.slice(0, 100).includes(`"format":"${TAKE_FORMAT}"`) ? readWholeTake(text) : signalsTake(name, text, rig, nowMs);
}

/** The beginning of a take that no engine played before. */
export function startOf({ id, document }: Into, nowMs: number): TakeStart {
  return { kind: 'begins', take: randomUUID(), number: 0, startMs: 0, startedAtMs: nowMs, rigId: id, rigName: document.name, rig: JSON.stringify(document), seed: 1, addresses: [], state: null };
}

async function midiTake(name: string, bytes: Uint8Array, rig: Into, nowMs: number): Promise<TakenFile> {
  let file: ReturnType<typeof readMidiFile>;
  try {
    file = readMidiFile(bytes);
  } catch (error) {
    if (error instanceof NoMidiFile) throw new ProblemError('invalid', 'file', error.message);
    throw error;
  }
  const output = firstTaking(rig.document, 'midi')?.id ?? rig.document.outputs[0]?.id;
  if (output === undefined) throw new ProblemError('invalid', 'file', 'The rig has no output that a MIDI file could be played to: add one on Outputs first.');
  const read = spellOutEnds(file.messages.map(({ timeMs, track, bytes: message }) => ({ atMs: timeMs, source: { output, who: 'take' as const, mapping: track }, bytes: message })));
  const messages = settle(read);
  const endless = notesOf(read).filter(({ off }) => off === NONE).length;
  const writer = new ScoreWriter();
  for (const { atMs, source, bytes: message } of messages) writer.message(atMs, source, message);
  const document = { ...rig.document, tempoBpm: Math.min(400, Math.max(20, file.tempoBpm)) };
  const version: TakeVersion = { id: randomUUID(), name: 'As it is in the file', madeAtMs: nowMs, messages: writer.messages, recipe: [], leftOut: [] };
  return {
    start: startOf({ ...rig, document }, nowMs),
    name,
    lengthMs: Math.max(file.lengthMs, messages.at(-1)?.atMs ?? 0),
    events: 0,
    marks: file.marks.slice(0, LIMITS.marks),
    pieces: [],
    versions: [{ version, score: await framed({ pieces: [writer.take()] }), rig: null, beyond: null }],
    remarks: [...file.remarks, ...(endless > 0 ? [`${endless} ${endless === 1 ? 'note' : 'notes'} of ${name} had no end and end with the take, or where they are struck again.`] : [])],
  };
}

function signalsTake(name: string, text: string, rig: Into, nowMs: number): TakenFile {
  const { recording, problems, badLines } = readRecording(text, name);
  if (!recording) throw new ProblemError('invalid', 'file', `This is no MIDI file, no take, and no line of it holds a time, a signal and a value${problems[0] ? `; line ${problems[0].line}: ${problems[0].message}` : '.'}`);
  const plan = compile(rig.document);
  const places = recording.signals.map((signal) => plan.signalIndex.get(signal) ?? plan.rig.signals.findIndex((one) => one.name === signal));
  const missing = recording.signals.filter((_, i) => places[i]! < 0);
  if (missing.length === recording.signals.length) throw new ProblemError('invalid', 'file', `The rig has none of the signals of this file (${missing.slice(0, 3).join(', ')}…): open the rig that they belong to, or play the file as an input.`);
  const writer = new LogWriter();
  const pieces: Uint8Array[] = [];
  let events = 0;
  const flush = () => {
    const piece = writer.take();
    if (!piece) return;
    pieces.push(piece.bytes);
    events += piece.events;
  };
  writer.write({ kind: 'start', timeMs: 0 }, plan);
  let tickMs = TICK_MS;
  recording.timesMs.forEach((timeMs, i) => {
    for (; tickMs <= timeMs; tickMs += TICK_MS) writer.write({ kind: 'tick', timeMs: tickMs }, plan);
    const signal = places[recording.which[i]!]!;
    if (signal >= 0) writer.write({ kind: 'sample', timeMs, signal, value: recording.values[i]! }, plan);
    if (writer.length > PIECE_BYTES) flush();
  });
  flush();
  const remarks = [...(badLines > 0 ? [`${badLines} ${badLines === 1 ? 'line was' : 'lines were'} left out; line ${problems[0]!.line}: ${problems[0]!.message}`] : []), ...(missing.length > 0 ? [`The rig does not have ${missing.slice(0, 5).join(', ')}: left out.`] : [])];
  return { start: startOf(rig, nowMs), name, lengthMs: recording.timesMs.at(-1)!, events, marks: [], pieces, versions: [], remarks };
}

/** Throws where the text is no rig. */
function readRig(text: string, broken: (why: string) => ProblemError): RigDocument {
  const document = checkRig(JSON.parse(text));
  if (!document.ok) throw broken(`its rig cannot be read. ${document.problems[0]!.message}`);
  return document.value;
}

/** More than what a log could name and a rig not have. */
const LEFT_OUT_MOST = 65_536;
const base64 = Joi.string().base64().allow('');
const fileSchema = Joi.object<TakeFile>({
  format: Joi.valid(TAKE_FORMAT).required(),
  version: Joi.number().required(),
  name: Joi.string().max(LIMITS.nameLength).required(),
  lengthMs: Joi.number().min(0).required(),
  events: Joi.number().min(0).required(),
  marks: Joi.array().max(LIMITS.marks).items(Joi.object({ atMs: Joi.number().min(0).required(), name: Joi.string().max(LIMITS.nameLength).required() })).required(),
  start: Joi.object({ startMs: Joi.number().required(), startedAtMs: Joi.number().required(), rigId: Joi.string().max(LIMITS.idLength).required(), rigName: Joi.string().max(LIMITS.nameLength).required(), rig: Joi.string().required(), seed: Joi.number().required(), addresses: Joi.array().items(Joi.string()).required(), state: base64.allow(null).required() }).unknown().required(),
  pieces: Joi.array().items(base64).required(),
  versions: Joi.array().max(100).items(Joi.object({ name: Joi.string().max(LIMITS.nameLength).required(), madeAtMs: Joi.number().required(), messages: Joi.number().required(), recipe: recipeSchema.required(), leftOut: Joi.array().max(LEFT_OUT_MOST).items(Joi.array().ordered(Joi.string().allow('').max(1000).required(), Joi.number().min(0).required())).required(), score: base64.required(), rig: Joi.string().allow(null).default(null) }).unknown()).required(),
});
type TakeFile = { format: typeof TAKE_FORMAT } & Omit<TakenFile, 'pieces' | 'versions' | 'remarks'> & { version: number; pieces: string[]; versions: (TakeVersion & { score: string; rig: string | null })[] };

/**
 * A take of another Pumice, looked through before it is taken in: a broken one would only be found when it is played. Throws a
 * `ProblemError` with a sentence.
 */
export function readWholeTake(text: string): TakenFile {
  const broken = (why: string) => new ProblemError('invalid', 'file', `This take cannot be taken in: ${why}`);
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    throw broken('the file is not whole.');
  }
  const checked = check(fileSchema, parsed);
  if (!checked.ok) throw broken(checked.problems[0]!.message);
  const { version: form, name, lengthMs, events, marks, start: written, pieces: logged, versions } = checked.value;
  if (form > TAKE_VERSION) throw broken('it was written by a newer version of Pumice.');
  try {
    const start: TakeStart = { ...written, take: randomUUID(), number: 0, kind: 'begins' };
    const rig = JSON.parse(start.rig) as RigDocument;
    const document = readRig(start.rig, broken);
    const known = shownOf(document);
    beginningOf(start);
    const pieces = logged.map(bytesOf);
    const reader = new LogReader(rig);
    let edited = known;
    for (const piece of pieces) reader.read(piece, { ...BLIND_VISITOR, rig: (_, after) => void (edited = shownTogether(edited, shownOf(after))) });
    const taken = versions.map(({ score: packed, rig: through, ...version }) => {
      const score = Buffer.from(packed, 'base64');
      const scoreReader = new ScoreReader();
      for (const piece of unframed(score)) scoreReader.read(piece, (_, source) => scoreReader.source(source));
      const shown = through === null ? edited : shownOf(readRig(through, broken));
      return { version: { ...version, id: randomUUID() }, score, rig: through, beyond: shownBeyond(shown, known) };
    });
    return { start, name, lengthMs, events, marks, pieces, versions: taken, remarks: [] };
  } catch (error) {
    if (ProblemError.is(error)) throw error;
    throw broken('what it holds is not whole.');
  }
}
