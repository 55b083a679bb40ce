import { ScoreReader, type MessageSource, type ScoreMessage } from './score';

/** Messages in the order of their times; a list of them is one. */
export interface Messages {
  readonly length: number;
  at(i: number): ScoreMessage | undefined;
}

/** A score in columns: 15 bytes a message and its own, however long the take is, and ready to be handed to another thread. */
export interface ScoreColumns {
  sources: MessageSource[];
  atMs: Float64Array<ArrayBuffer>;
  source: Uint16Array<ArrayBuffer>;
  /** Where the bytes of each begin; one more for the end of the last. */
  begins: Uint32Array<ArrayBuffer>;
  bytes: Uint8Array<ArrayBuffer>;
}

/** Throws where the pieces are no score. */
export function columnsOf(pieces: readonly Uint8Array[]): ScoreColumns {
  let count = 0;
  let size = 0;
  const first = new ScoreReader();
  for (const piece of pieces) {
    first.read(piece, (_atMs, _source, bytes) => {
      count++;
      size += bytes.length;
    });
  }
  const columns: ScoreColumns = { sources: first.sources, atMs: new Float64Array(count), source: new Uint16Array(count), begins: new Uint32Array(count + 1), bytes: new Uint8Array(size) };
  let i = 0;
  let at = 0;
  const second = new ScoreReader();
  for (const piece of pieces) {
    second.read(piece, (atMs, source, bytes) => {
      columns.atMs[i] = atMs;
      columns.source[i] = source;
      columns.begins[i] = at;
      columns.bytes.set(bytes, at);
      at += bytes.length;
      i++;
    });
  }
  columns.begins[count] = at;
  return columns;
}

/** The messages of columns, each made when it is asked for. */
export class ScoreTable implements Messages {
  constructor(private readonly columns: ScoreColumns) {}

  get length(): number {
    return this.columns.atMs.length;
  }

  at(i: number): ScoreMessage | undefined {
    const { sources, atMs, source, begins, bytes } = this.columns;
    return i < 0 || i >= atMs.length ? undefined : { atMs: atMs[i]!, source: sources[source[i]!]!, bytes: bytes.subarray(begins[i], begins[i + 1]) };
  }
}
