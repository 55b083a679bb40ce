import { KEEP } from './keep';
import { withoutBeginnings } from './withoutBeginnings';

/** A unit of whole messages that waits for a slow port. */
interface Waiting {
  bytes: Uint8Array;
  address: number;
}

/**
 * What waits before a slow port (DIN: 31,250 baud, 10 bits a byte, so 3,125 bytes/s). Of values of one address only the
 * newest waits, in the place of the older one; notes and all else that must be kept stay in order and are never left out.
 * A kept unit holds the values before it in place: a newer value never passes a note that came before it, nor replaces a
 * value that the note was meant to start with.
 */
export class PortQueue {
  private waiting: Waiting[] = [];
  /** Places in `waiting`, counted from the first ever, of the values that a newer one may still replace. */
  private readonly replaceable = new Map<number, number>();
  private taken = 0;
  private freeMs = -Infinity;

  constructor(private readonly bytesPerS: number) {}

  push(bytes: Uint8Array, address: number): void {
    if (address === KEEP) this.replaceable.clear();
    else {
      const place = this.replaceable.get(address);
      if (place !== undefined) {
        this.waiting[place - this.taken]!.bytes = bytes;
        return;
      }
      this.replaceable.set(address, this.taken + this.waiting.length);
    }
    this.waiting.push({ bytes, address });
  }

  /** Panic: what waits begins no note. */
  hush(): void {
    // The places of what may be replaced are others from here on.
    this.replaceable.clear();
    this.waiting = withoutBeginnings(this.waiting);
  }

  /** The next unit that the port has room for at a time, or null; call until it is. */
  take(timeMs: number): Uint8Array | null {
    if (this.waiting.length === 0 || timeMs < this.freeMs) return null;
    const { bytes, address } = this.waiting.shift()!;
    if (this.replaceable.get(address) === this.taken) this.replaceable.delete(address);
    this.taken++;
    this.freeMs = Math.max(this.freeMs, timeMs) + (bytes.length * 1000) / this.bytesPerS;
    return bytes;
  }

  /** When the next unit may leave, or null where none waits. */
  get nextMs(): number | null {
    return this.waiting.length === 0 ? null : this.freeMs;
  }
}
