import type { LoggedEvent } from '../../../core/engine/eventLog';
import type { RigDocument } from '../../../core/rig/document';
import { splitPieces } from '../../../core/takes/bytes';
import { lanesOf } from '../../../core/takes/lanes';
import { LogReader, type LogVisitor } from '../../../core/takes/log';
import { readScore, ScoreWriter } from '../../../core/takes/score';
import { columnsOf } from '../../../core/takes/scoreTable';
import { tidy } from '../../../core/takes/tidy';
import type { FromTakeWorker, LogEntry, SignalLane, ToTakeWorker } from './takeMessages';

/** Reads a take, so that the page answers meanwhile: its score as lanes to be drawn, then its log; and tidies it. */

let pieces: Uint8Array[] = [];
let bendRanges: Record<string, number> = {};
let lengthMs = 0;

const bendSemitonesOf = (output: string) => bendRanges[output] ?? 2;
const say = (said: FromTakeWorker, buffers: ArrayBuffer[] = []) => postMessage(said, { transfer: buffers });
const lanes = (of: Uint8Array[]) => lanesOf(columnsOf(of), bendSemitonesOf, lengthMs);

async function fetchFramed(url: string): Promise<Uint8Array[]> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(((await response.json()) as { problem: { message: string } }).problem.message);
  return splitPieces(new Uint8Array(await new Response(response.body!.pipeThrough(new DecompressionStream('gzip'))).arrayBuffer()));
}

function sayScore(of: Uint8Array[], answer: (made: ReturnType<typeof lanes>) => FromTakeWorker): void {
  const made = lanes(of);
  say(
    answer(made),
    made.flatMap((lane) => Object.values(lane).flatMap((column) => (column instanceof Float64Array ? [column.buffer as ArrayBuffer] : []))),
  );
}

class LogPicture implements LogVisitor {
  readonly entries: LogEntry[] = [];
  private readonly samples = new Map<string, { atMs: number[]; value: number[] }>();
  private spoken: readonly string[] = [];

  constructor(
    private readonly startMs: number,
    private rigNow: RigDocument,
  ) {}

  get signals(): SignalLane[] {
    return [...this.samples].map(([id, { atMs, value }]) => ({ kind: 'signal', id, atMs: Float64Array.from(atMs), value: Float64Array.from(value) }));
  }

  names({ signals }: { signals: readonly string[] }): void {
    this.spoken = signals;
  }

  sample(timeMs: number, signal: number, value: number): void {
    this.add(timeMs, this.spoken[signal] ?? '?', value);
  }

  private add(timeMs: number, id: string, value: number): void {
    let of = this.samples.get(id);
    if (!of) this.samples.set(id, (of = { atMs: [], value: [] }));
    of.atMs.push(timeMs - this.startMs);
    of.value.push(value);
  }

  tick(): void {
    // Time alone is nothing to see.
  }

  voice(): void {
    // Voices are seen in what they sounded.
  }

  rig(timeMs: number, rig: RigDocument): void {
    this.rigNow = rig;
    this.entries.push({ atMs: timeMs - this.startMs, words: 'edit of the rig' });
  }

  other(event: LoggedEvent): void {
    const atMs = event.timeMs - this.startMs;
    if (event.kind === 'recall') this.entries.push({ atMs, words: `scene ${this.rigNow.scenes.find(({ id }) => id === event.scene)?.name ?? event.scene}` });
    if (event.kind === 'heldOn') this.add(event.timeMs, event.signal, Number(event.value));
    if (event.kind === 'panic') this.entries.push({ atMs, words: 'Panic' });
  }
}

async function load(said: ToTakeWorker & { kind: 'load' }): Promise<void> {
  ({ bendRanges, lengthMs } = said);
  pieces = await fetchFramed(said.score);
  sayScore(pieces, (made) => ({ kind: 'score', lanes: made, messages: made.length }));
  if (said.before !== null) sayScore(await fetchFramed(said.before), (made) => ({ kind: 'before', lanes: made }));
  const [head, ...log] = await fetchFramed(said.log);
  const { startMs, rig } = JSON.parse(new TextDecoder().decode(head)) as { startMs: number; rig: RigDocument };
  const picture = new LogPicture(startMs, rig);
  const reader = new LogReader(rig);
  for (const piece of log) reader.read(piece, picture);
  const { signals, entries } = picture;
  say(
    { kind: 'log', signals, entries },
    signals.flatMap(({ atMs, value }) => [atMs.buffer, value.buffer]),
  );
}

function tidied({ asked, recipe, bpm }: ToTakeWorker & { kind: 'tidy' }): void {
  const { messages, said } = tidy(readScore(pieces), recipe, { bpm, bendSemitonesOf });
  const writer = new ScoreWriter();
  for (const { atMs, source, bytes } of messages) writer.message(atMs, source, bytes);
  sayScore([writer.take()], (made) => ({ kind: 'tidied', asked, lanes: made, said, messages: messages.length }));
}

onmessage = ({ data }: MessageEvent<ToTakeWorker>) => {
  void (async () => (data.kind === 'load' ? await load(data) : tidied(data)))().catch((error: Error) => say({ kind: 'failed', sentence: `This take cannot be shown: ${error.message}` }));
};
