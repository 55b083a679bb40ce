import { fingerprint } from './fingerprint';

/** A message counts as come back when it arrives this soon after it was sent. */
const BACK_WITHIN_MS = 100;
/** So many rounds in a row are let through; then it is found out whether they are a loop. */
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
  receivedMs: number;
  output: string;
  rounds: number;
  /** Since when one round is held back to see whether another arrives all the same; NaN: none is. */
  heldMs: number;
  /** It arrives by itself, whether or not it was sent. */
  isInnocent: boolean;
  loop: Loop | null;
}

/**
 * Finds messages that go round: sent by an output, back at an input shortly after with the same content, sent again.
 *
 * A clock or an encoder that is passed on looks the same: each of its messages arrives shortly after an equal one was sent. So
 * after a few rounds one is held back. Where the next arrives although nothing was sent meanwhile, it comes by itself: what was
 * held is let in late, and the message may pass until it has been quiet for a second. Where none arrives, the loop is cut, and
 * the two ports are named.
 */
export class LoopGuard {
  /** By the fingerprint of a message. */
  private readonly trips = new Map<number, Trip>();
  private found: Loop[] = [];

  /** Every message that leaves by an output that it could come back from is shown to the guard. */
  sent(output: string, bytes: Uint8Array, timeMs: number): void {
    const key = fingerprint(bytes);
    const known = this.trips.get(key);
    this.trips.delete(key);
    const trip = known && timeMs - Math.max(known.sentMs, known.receivedMs) <= FORGET_MS ? known : { ...FRESH };
    trip.sentMs = timeMs;
    trip.output = output;
    this.trips.set(key, trip);
    if (this.trips.size > REMEMBERED) this.trips.delete(this.trips.keys().next().value!);
  }

  /** How often a message that arrived is to be let in: once, not at all, or twice where one before it was held back wrongly. */
  received(input: string, bytes: Uint8Array, timeMs: number): 0 | 1 | 2 {
    if (this.trips.size === 0) return 1;
    const trip = this.trips.get(fingerprint(bytes));
    if (!trip) return 1;
    const wasQuiet = timeMs - trip.receivedMs > FORGET_MS;
    trip.receivedMs = timeMs;
    if (wasQuiet && timeMs - trip.sentMs > BACK_WITHIN_MS) Object.assign(trip, { rounds: 0, isInnocent: false, heldMs: NaN });
    if (trip.isInnocent) return 1;
    if (!Number.isNaN(trip.heldMs)) return this.afterHolding(trip, input, timeMs);
    if (timeMs - trip.sentMs > BACK_WITHIN_MS) return 1;
    trip.rounds++;
    if (trip.rounds <= ROUNDS) return 1;
    trip.heldMs = timeMs;
    trip.loop = { output: trip.output, input };
    return 0;
  }

  /** The loops that were found since the last call. */
  take(timeMs: number): Loop[] {
    for (const trip of this.trips.values()) {
      if (timeMs - trip.heldMs > BACK_WITHIN_MS) this.isLoop(trip);
    }
    const { found } = this;
    this.found = [];
    return found;
  }

  /** One was held back, and another arrives. */
  private afterHolding(trip: Trip, input: string, timeMs: number): 0 | 1 | 2 {
    const heldForMs = timeMs - trip.heldMs;
    // Sent meanwhile by something else: it may well be that one which came back.
    if (trip.sentMs > trip.heldMs && timeMs - trip.sentMs <= BACK_WITHIN_MS) {
      this.isLoop({ ...trip, loop: { output: trip.output, input } });
      trip.heldMs = timeMs;
      return 0;
    }
    if (heldForMs > BACK_WITHIN_MS) {
      this.isLoop(trip);
      return 1;
    }
    trip.heldMs = NaN;
    trip.rounds = 0;
    trip.isInnocent = true;
    return 2;
  }

  private isLoop(trip: Trip): void {
    this.found.push(trip.loop!);
    trip.heldMs = NaN;
    trip.rounds = 0;
  }
}

const FRESH: Trip = { sentMs: -Infinity, receivedMs: -Infinity, output: '', rounds: 0, heldMs: NaN, isInnocent: false, loop: null };
