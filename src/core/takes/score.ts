import type { Who } from '../engine/sink';
import { ByteReader, ByteWriter } from './bytes';
import { UNITS_PER_MS } from './log';

/** Who sent a message, and to which output. */
export interface MessageSource {
  output: string;
  who: Who;
  /** The mapping or voice mapping, null where it was none. */
  mapping: string | null;
}

/** A message of a take: MIDI (one whole message) or a packet of OSC. Counted from the beginning of the take. */
export interface ScoreMessage {
  atMs: number;
  source: MessageSource;
  bytes: Uint8Array;
}

/** In place of the number of a source: a new one follows. */
const NEW_SOURCE = 0;

/**
 * The messages of a take as bytes: the time since the message before, in 1/128 ms, who sent it (a number, said once), its bytes.
 * It stands in pieces that are read in their order.
 */
export class ScoreWriter {
  private readonly out = new ByteWriter();
  private readonly numbers = new Map<string, number>();
  private lastUnits = 0;
  messages = 0;

  get length(): number {
    return this.out.length;
  }

  message(atMs: number, source: MessageSource, bytes: ArrayLike<number>, length = bytes.length): void {
    const { out } = this;
    const key = `${source.output} ${source.who} ${source.mapping}`;
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.numbers.size + 1;
      this.numbers.set(key, number);
      out.count(0);
      out.count(NEW_SOURCE);
      out.text(JSON.stringify(source));
    }
    const units = Math.max(this.lastUnits, Math.round(atMs * UNITS_PER_MS));
    out.count(units - this.lastUnits);
    out.count(number);
    out.some(bytes, length);
    this.lastUnits = units;
    this.messages++;
  }

  /** What was written since the last call. */
  take(): Uint8Array {
    return this.out.take();
  }
}

/** Reads the pieces of a score in their order. */
export class ScoreReader {
  readonly sources: MessageSource[] = [];
  private units = 0;

  /** Throws where the bytes are no piece of a score. The bytes that `visit` is given are a view of the piece. */
  read(piece: Uint8Array, visit: (atMs: number, source: number, bytes: Uint8Array) => void): void {
    const from = new ByteReader(piece);
    while (!from.ended) {
      this.units += from.count();
      const number = from.count();
      if (number === NEW_SOURCE) this.sources.push(JSON.parse(from.text()) as MessageSource);
      else visit(this.units / UNITS_PER_MS, number - 1, from.some());
    }
  }

  source(number: number): MessageSource {
    const source = this.sources[number];
    if (!source) throw new Error(`It names a source ${number} that it did not say.`);
    return source;
  }
}

/** All messages of a score; for takes that are known to be short. */
export function readScore(pieces: Iterable<Uint8Array>): ScoreMessage[] {
  const reader = new ScoreReader();
  const messages: ScoreMessage[] = [];
  for (const piece of pieces) reader.read(piece, (atMs, source, bytes) => void messages.push({ atMs, source: reader.source(source), bytes }));
  return messages;
}
