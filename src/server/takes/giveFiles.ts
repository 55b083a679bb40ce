import Papa from 'papaparse';
import { splitMessages } from '../../core/midi/decode';
import { setUpItems } from '../../core/receivers/setUp';
import type { RigDocument } from '../../core/rig/document';
import { BLIND_VISITOR, LogReader } from '../../core/takes/log';
import { isMidi } from '../../core/takes/notes';
import type { MessageSource } from '../../core/takes/score';
import type { Messages } from '../../core/takes/scoreTable';
import type { Mark } from '../../core/takes/take';
import type { TempoChange } from '../../core/takes/tempoMap';
import { layoutChannels } from '../../core/receivers/layout';
import { writeMidiFile, type TimedMessage } from '../../protocol/midiFile';
import type { TakeSummary, TakeVersion } from '../../protocol/takes';
import type { TakeStart } from '../storage/takeRepository';

/** What marks a file as a whole take; the number grows with its form. */
export const TAKE_FORMAT = 'pumice-take';
export const TAKE_VERSION = 1;

/**
 * The messages as a Standard MIDI File: a track for each mapping of each output. A track begins with what its receiver should be
 * set to on the channels that it uses (zone, bend range, programs), so that it sounds right alone. OSC has no place in it.
 * @param rigs where names and receivers are looked for, the first first; meter and usual tempo are those of the first
 */
export function midiFile(messages: Messages, rigs: readonly [RigDocument, ...RigDocument[]], marks: readonly Mark[], format: 0 | 1, line: string | null, tempi: readonly TempoChange[] = [{ atMs: 0, bpm: rigs[0].tempoBpm }]): Uint8Array {
  const timed: TimedMessage[] = [];
  const used = new Map<string, { source: MessageSource; channels: Set<number> }>();
  // Those of one source share it, and of an hour of messages there are few sources.
  const tracks = new Map<MessageSource, string>();
  for (let i = 0; i < messages.length; i++) {
    const message = messages.at(i)!;
    const { source, bytes, atMs } = message;
    if (!isMidi(message) || (line !== null && source.mapping !== line)) continue;
    const track = tracks.get(source) ?? trackName(rigs, source);
    tracks.set(source, track);
    const of = used.get(track) ?? { source, channels: new Set<number>() };
    used.set(track, of);
    if (bytes[0]! < 0xf0) of.channels.add((bytes[0]! & 0x0f) + 1);
    timed.push({ timeMs: atMs, track, bytes });
  }
  const setUp = [...used].flatMap(([track, { source, channels }]) => setUpOf(rigs, source.output, channels).map((bytes): TimedMessage => ({ timeMs: 0, track, bytes })));
  return writeMidiFile([...setUp, ...timed], tempi, { format, marks, meter: rigs[0].meter });
}

/** What stands between two names is ASCII, which every program reads (SMF 1.0). */
function trackName(rigs: readonly RigDocument[], { output, who, mapping }: MessageSource): string {
  const name = rigs.flatMap(({ mappings, voiceMappings }) => [...mappings, ...voiceMappings]).find(({ id }) => id === mapping)?.name ?? mapping ?? who;
  const place = rigs.flatMap(({ outputs }) => outputs).find(({ id }) => id === output)?.name ?? output;
  return name === place ? name : `${place}: ${name}`;
}

/** What a receiver is set to for these channels; a zone is set up whole where any of it is used. */
function setUpOf(rigs: readonly RigDocument[], id: string, channels: ReadonlySet<number>): Uint8Array[] {
  const rig = rigs.find(({ outputs }) => outputs.some((one) => one.id === id));
  if (!rig) return [];
  const output = rig.outputs.find((one) => one.id === id)!;
  const { layout } = rig.receivers.find((receiver) => receiver.id === output.receiver)!;
  const all = new Set([...channels, ...(layout && layoutChannels(layout).some((channel) => channels.has(channel)) ? layoutChannels(layout) : [])]);
  return setUpItems(rig, output).flatMap(({ messages }) => messages.flatMap(splitMessages).filter((bytes) => bytes[0]! >= 0xf0 || all.has((bytes[0]! & 0x0f) + 1)));
}

/** The samples of a take, as Inputs plays them. */
export function signalsFile({ rig, startMs }: TakeStart, pieces: readonly Uint8Array[], as: 'csv' | 'jsonl'): Uint8Array {
  const rows: { time: number; signal: string; value: number }[] = [];
  let names: readonly string[] = [];
  const row = (timeMs: number, signal: string, value: number) => Number.isFinite(value) && rows.push({ time: Math.round((timeMs - startMs) * 1000) / 1000, signal, value });
  const reader = new LogReader(JSON.parse(rig) as RigDocument);
  for (const piece of pieces) {
    reader.read(piece, {
      ...BLIND_VISITOR,
      names: ({ signals }) => void (names = signals),
      sample: (timeMs, signal, value) => row(timeMs, names[signal] ?? '?', value),
      other: (event) => event.kind === 'heldOn' && row(event.timeMs, event.signal, Number(event.value)),
    });
  }
  const text = as === 'csv' ? `${Papa.unparse(rows, { columns: ['time', 'signal', 'value'], newline: '\n' })}\n` : rows.map(({ time, signal, value }) => `${JSON.stringify({ timeMs: time, signal, value })}\n`).join('');
  return new TextEncoder().encode(text);
}

/** A take with all its versions as JSON; the pieces of its log and the scores in base64. */
export function wholeTake({ name, lengthMs, events, marks }: TakeSummary, start: TakeStart, pieces: readonly Uint8Array[], versions: readonly { version: TakeVersion; score: Uint8Array; rig: string | null }[]): Uint8Array {
  const base64 = (bytes: Uint8Array) => Buffer.from(bytes).toString('base64');
  const file = { format: TAKE_FORMAT, version: TAKE_VERSION, name, lengthMs, events, marks, start, pieces: pieces.map(base64), versions: versions.map(({ version, score, rig }) => ({ ...version, score: base64(score), rig })) };
  return new TextEncoder().encode(`${JSON.stringify(file)}\n`);
}
