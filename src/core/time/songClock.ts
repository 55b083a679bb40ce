import { CLOCKS_PER_BEAT, ClockFollower } from './clockFollower';
import { msPerBeat } from './musicalTime';

/** A song position counts sixteenths, of six clocks each (MIDI 1.0, song position pointer). */
const CLOCKS_PER_POSITION = 6;

/** A pause of so many clocks, and so long, is no jitter: clocks were lost, or come late all at once; a longer one may be anything. */
const PAUSE_CLOCKS = 3.5;
const PAUSE_MS = 60;
const LONGEST_MS = 2000;
/** One that comes this soon after another was late. */
const LATE_SHARE = 0.4;

/** Where a MIDI clock that comes in stands: its tempo by a line through its last clocks, its beat by counting them. */
export class SongClock {
  private readonly follower = new ClockFollower();
  private next = 0;
  private running = false;
  private lastMs = NaN;
  private periodMs = NaN;
  /** Clocks that were taken for lost, and may still come. */
  private owed = 0;

  /** The next clock is the first of the piece (MIDI 1.0, start). */
  start(): void {
    this.next = 0;
    this.running = true;
  }

  /** It goes on from where it was, or from the position that was told. */
  goOn(): void {
    this.running = true;
  }

  stop(): void {
    this.running = false;
  }

  position(sixteenths: number): void {
    this.next = sixteenths * CLOCKS_PER_POSITION;
  }

  /** The beat at which it goes on. */
  get nextBeat(): number {
    return this.next / CLOCKS_PER_BEAT;
  }

  /** A clock came: the tempo in beats a minute, NaN before it is known, and the beat at this time, NaN while it stands. */
  clock(timeMs: number): { bpm: number; beat: number } {
    const bpm = this.follower.clock(timeMs);
    const gapMs = timeMs - this.lastMs;
    this.lastMs = timeMs;
    if (!Number.isNaN(bpm)) this.periodMs = msPerBeat(bpm) / CLOCKS_PER_BEAT;
    if (!this.running) return { bpm, beat: NaN };
    if (this.isOwed(gapMs)) return { bpm, beat: NaN };
    const beat = this.next++ / CLOCKS_PER_BEAT;
    const lateMs = timeMs - this.follower.fittedMs;
    // After a pause the line does not hold yet.
    return { bpm, beat: Number.isNaN(bpm) || Math.abs(lateMs) > this.periodMs ? beat : beat + lateMs / msPerBeat(bpm) };
  }

  /** Counts those that a pause has swallowed; whether this clock is one of them, which comes after all. */
  private isOwed(gapMs: number): boolean {
    const { periodMs } = this;
    if (gapMs > PAUSE_CLOCKS * periodMs && gapMs > PAUSE_MS && gapMs < LONGEST_MS) {
      this.owed = Math.round(gapMs / periodMs) - 1;
      this.next += this.owed;
      return false;
    }
    if (this.owed > 0 && gapMs < LATE_SHARE * periodMs) {
      this.owed--;
      return true;
    }
    this.owed = 0;
    return false;
  }
}
