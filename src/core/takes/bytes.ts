const MOST_SHIFTED = 0x7fffffff;

/** Bytes that are written one after another; the room grows. */
export class ByteWriter {
  private bytes = new Uint8Array(1024);
  private view = new DataView(this.bytes.buffer);
  length = 0;

  byte(value: number): void {
    this.reserve(1);
    this.bytes[this.length++] = value;
  }

  /** A whole number from 0 to 2^53, seven bits a byte, the lowest first. */
  count(value: number): void {
    this.reserve(8);
    let rest = value;
    // What is no more than 31 bits is divided by shifting, nearly always; a remainder of larger numbers is a call.
    if (rest <= MOST_SHIFTED) {
      for (; rest > 127; rest >>= 7) this.bytes[this.length++] = (rest & 127) | 128;
      this.bytes[this.length++] = rest;
      return;
    }
    while (rest > 127) {
      this.bytes[this.length++] = (rest % 128) | 128;
      rest = Math.floor(rest / 128);
    }
    this.bytes[this.length++] = rest;
  }

  float32(value: number): void {
    this.reserve(4);
    this.view.setFloat32(this.length, value, true);
    this.length += 4;
  }

  float64(value: number): void {
    this.reserve(8);
    this.view.setFloat64(this.length, value, true);
    this.length += 8;
  }

  /** With their number before them. */
  some(bytes: ArrayLike<number>, length = bytes.length): void {
    this.count(length);
    this.reserve(length);
    for (let i = 0; i < length; i++) this.bytes[this.length++] = bytes[i]!;
  }

  text(text: string): void {
    this.some(new TextEncoder().encode(text));
  }

  /** A copy of what was written. */
  take(): Uint8Array {
    const taken = this.bytes.slice(0, this.length);
    this.length = 0;
    return taken;
  }

  private reserve(more: number): void {
    if (this.length + more <= this.bytes.length) return;
    const larger = new Uint8Array(Math.max(this.bytes.length * 2, this.length + more));
    larger.set(this.bytes);
    this.bytes = larger;
    this.view = new DataView(larger.buffer);
  }
}

/** The same, read. Every method throws where the bytes end before that. */
export class ByteReader {
  at = 0;
  private readonly view: DataView;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get ended(): boolean {
    return this.at >= this.bytes.length;
  }

  byte(): number {
    this.needs(1);
    return this.bytes[this.at++]!;
  }

  count(): number {
    let value = 0;
    for (let scale = 1; ; scale *= 128) {
      const byte = this.byte();
      value += (byte & 127) * scale;
      if (byte < 128) return value;
      if (scale > 2 ** 49) throw new Error('A number in it is too large.');
    }
  }

  float32(): number {
    this.needs(4);
    this.at += 4;
    return this.view.getFloat32(this.at - 4, true);
  }

  float64(): number {
    this.needs(8);
    this.at += 8;
    return this.view.getFloat64(this.at - 8, true);
  }

  /** A view of them, not a copy. */
  some(): Uint8Array {
    const length = this.count();
    this.needs(length);
    this.at += length;
    return this.bytes.subarray(this.at - length, this.at);
  }

  text(): string {
    return new TextDecoder('utf-8', { fatal: true }).decode(this.some());
  }

  private needs(more: number): void {
    if (this.at + more > this.bytes.length) throw new Error('It ends in the middle.');
  }
}

/** Pieces as one, each with its length before it. */
export function joinPieces(pieces: readonly Uint8Array[]): Uint8Array {
  const out = new ByteWriter();
  for (const piece of pieces) out.some(piece);
  return out.take();
}

/** The pieces of such bytes, as views of them. Throws where they end in the middle. */
export function splitPieces(bytes: Uint8Array): Uint8Array[] {
  const from = new ByteReader(bytes);
  const pieces: Uint8Array[] = [];
  while (!from.ended) pieces.push(from.some());
  return pieces;
}
