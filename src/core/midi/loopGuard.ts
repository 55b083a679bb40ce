/** A message counts as come back when it arrives this soon after it was sent. */
const BACK_WITHIN_MS = 100;
/** So many rounds in a row are let through; more are a loop. */
const ROUNDS = 4;
/** A message that did not go round for this long is forgotten. */
const FORGET_MS = 1000;
/** So many different messages are remembered; the oldest go first. */
const REMEMBERED = 1024;

export interface Loop {
  output: string;
  input: string;
}

interface Trip {
  sentMs: number;
  output: string;
  rounds: number;
}

/**
 * Finds messages that go round: sent by an output, back at an input shortly after with the same content, sent again. After
 * a few rounds they are held back and the two ports named, until the loop has been quiet for a second.
 */
export class LoopGuard {
  private readonly trips = new Map<string, Trip>();

  /** Every message that leaves is shown to the guard. */
  sent(output: string, bytes: Uint8Array, timeMs: number): void {
    const key = bytes.join(' ');
    const before = this.trips.get(key);
    this.trips.delete(key);
    const rounds = before && timeMs - before.sentMs <= FORGET_MS ? before.rounds : 0;
    this.trips.set(key, { sentMs: timeMs, output, rounds });
    if (this.trips.size > REMEMBERED) this.trips.delete(this.trips.keys().next().value!);
  }

  /** Whether a message that arrived must be held back: then the loop it is in, else null. */
  received(input: string, bytes: Uint8Array, timeMs: number): Loop | null {
    if (this.trips.size === 0) return null;
    const trip = this.trips.get(bytes.join(' '));
    if (!trip || timeMs - trip.sentMs > BACK_WITHIN_MS) return null;
    trip.rounds++;
    if (trip.rounds <= ROUNDS) return null;
    trip.sentMs = timeMs;
    return { output: trip.output, input };
  }
}
