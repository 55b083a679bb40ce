import { palmPlace, palmSize, type Place } from './measures';
import type { HandsFrame, SeenHand, Side } from './landmarks';

/** A hand that is in no picture for so long is lost, and at least in so many pictures: a slow camera loses none for one that failed. */
const LOST_MS = 250;
const LOST_PICTURES = 2;
/** Where no picture comes at all, it is lost after this. */
const SILENT_MS = 700;
/** Between two pictures a hand goes so far at most, in palms and a little more for each ms. */
const REACH_PALMS = 2;
const REACH_PALMS_PER_MS = 0.01;
/** From one picture to the next a hand becomes no more than so many times as large or small. */
const GROWS_TIMES = 1.7;
/** Who has been called by the other name for so long was called wrongly at first. */
const WRONG_MS = 1200;
/** A hand that is smaller than this beside the performer's is somebody else's, further back. */
const STRANGER_SIZE = 0.5;
/** So long it is remembered how large the performer's hands are, and that what was lost was near where it went. */
const REMEMBERED_MS = 4000;
/** A lost hand comes back within so many palms of where it was, or at an edge; elsewhere it must stay so long to be believed. */
const BACK_WITHIN_PALMS = 5;
const BELIEVED_MS = 500;

/** Of one hand that is found twice both lie within so many palms of each other, and are called the same. */
const TWICE_PALMS = 0.7;

interface Seen {
  hand: SeenHand;
  place: Place;
  size: number;
}

function once(seen: readonly Seen[], aspect: number): Seen[] {
  return seen.filter((one, i) => !seen.slice(0, i).some((other) => other.hand.side === one.hand.side && Math.hypot((other.place.x - one.place.x) * aspect, other.place.y - one.place.y) < TWICE_PALMS * other.size));
}

/** A hand of the performer that is followed. */
export class Track {
  hand: SeenHand | null = null;
  seenMs = -Infinity;
  size = 0;
  x = 0.5;
  y = 0.5;
  private vx = 0;
  private vy = 0;
  /** For how long it has been called by the name of the other side. */
  wrongMs = 0;
  /** In how many pictures since it was not. */
  missed = 0;

  constructor(readonly side: Side) {}

  isThere(timeMs: number): boolean {
    return timeMs - this.seenMs <= (this.missed < LOST_PICTURES ? SILENT_MS : LOST_MS);
  }

  /** How far a hand is from where this one should be by now, in its palms. */
  palmsTo(place: Place, aspect: number, timeMs: number): number {
    const aheadMs = Math.min(timeMs - this.seenMs, LOST_MS);
    return Math.hypot((place.x - this.x - this.vx * aheadMs) * aspect, place.y - this.y - this.vy * aheadMs) / Math.max(this.size, 1e-3);
  }

  see({ hand, size, place }: Seen, timeMs: number): void {
    const pastMs = timeMs - this.seenMs;
    const goesOn = pastMs > 0 && pastMs <= LOST_MS;
    this.vx = goesOn ? (place.x - this.x) / pastMs : 0;
    this.vy = goesOn ? (place.y - this.y) / pastMs : 0;
    this.wrongMs = hand.side === this.side ? 0 : goesOn ? this.wrongMs + pastMs : 0;
    Object.assign(this, { hand, seenMs: timeMs, size, x: place.x, y: place.y, missed: 0 });
  }

  /** Is the other hand from now on. */
  become(other: Track): void {
    const { hand, seenMs, size, x, y, vx, vy, missed } = other;
    Object.assign(this, { hand, seenMs, size, x, y, vx, vy, missed, wrongMs: 0 });
  }

  lose(): void {
    this.hand = null;
    this.wrongMs = 0;
  }
}

/**
 * Which hand of a picture is which of the performer's: a hand that goes on keeps its name, whatever it is called while hands cross;
 * a third one, or a smaller one further back, is somebody else's.
 */
export class Tracks {
  readonly left = new Track('left');
  readonly right = new Track('right');
  /** How many hands of the newest picture are nobody's. */
  strangers = 0;
  /** Since when an unlikely hand waits to be believed, by its side: in every picture since. */
  private waitsMs = { left: NaN, right: NaN };

  /** Takes in what was seen; afterwards each track's `hand` is that of this picture, null where it was not seen. */
  push({ timeMs, aspect, hands }: HandsFrame): void {
    const { left, right } = this;
    const seen = once(hands.map((hand) => ({ hand, place: palmPlace(hand), size: palmSize(hand, aspect) })), aspect);
    left.hand = right.hand = null;
    const free = new Set(seen);
    // First who goes on, the nearest first.
    const pairs = [left, right]
      .filter((track) => track.isThere(timeMs))
      .flatMap((track) => seen.map((one) => ({ track, one, palms: track.palmsTo(one.place, aspect, timeMs) + (one.hand.side === track.side ? 0 : 0.25) })))
      .filter(({ track, one, palms }) => palms <= REACH_PALMS + REACH_PALMS_PER_MS * (timeMs - track.seenMs) && one.size < GROWS_TIMES * track.size && one.size > track.size / GROWS_TIMES)
      .sort((a, b) => a.palms - b.palms);
    for (const { track, one } of pairs) {
      if (track.hand !== null || !free.delete(one)) continue;
      track.see(one, timeMs);
    }
    const waitedMs = this.waitsMs;
    this.waitsMs = { left: NaN, right: NaN };
    for (const one of free) {
      const track = this.placeFor(one.hand.side, timeMs);
      if (track === null || !this.isBelieved(track, one, aspect, timeMs, waitedMs[track.side])) continue;
      this.waitsMs[track.side] = NaN;
      free.delete(one);
      track.see(one, timeMs);
    }
    this.strangers = free.size;
    for (const track of [left, right]) if (!track.hand) track.missed++;
    this.rename(timeMs);
  }

  private placeFor(side: Side, timeMs: number): Track | null {
    const own = this[side];
    if (!own.isThere(timeMs)) return own;
    const other = this[side === 'left' ? 'right' : 'left'];
    return other.isThere(timeMs) ? null : other;
  }

  /** Whether a hand that comes is one of the performer's. @param waitedMs since when one like it has waited, NaN for none */
  private isBelieved(track: Track, { place, size }: Seen, aspect: number, timeMs: number, waitedMs: number): boolean {
    const known = [this.left, this.right].filter(({ seenMs }) => timeMs - seenMs <= REMEMBERED_MS);
    const largest = Math.max(0, ...known.map((one) => one.size));
    if (size < STRANGER_SIZE * largest) return false;
    const awayMs = timeMs - track.seenMs;
    if (awayMs > REMEMBERED_MS || track.palmsTo(place, aspect, timeMs) <= BACK_WITHIN_PALMS) return true;
    // Elsewhere and soon after: it is another's, unless it stays.
    const sinceMs = Number.isNaN(waitedMs) ? timeMs : waitedMs;
    this.waitsMs[track.side] = sinceMs;
    return timeMs - sinceMs >= BELIEVED_MS;
  }

  /** Names that were wrong from the beginning are put right. */
  private rename(timeMs: number): void {
    const { left, right } = this;
    const isWrong = (track: Track) => !track.isThere(timeMs) || track.wrongMs >= WRONG_MS;
    if (!isWrong(left) || !isWrong(right) || (left.wrongMs < WRONG_MS && right.wrongMs < WRONG_MS)) return;
    const kept = new Track('left');
    kept.become(left);
    left.become(right);
    right.become(kept);
  }
}
