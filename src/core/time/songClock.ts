import { CLOCKS_PER_BEAT, ClockFollower } from './clockFollower';
import { msPerBeat } from './musicalTime';

/** A song position counts sixteenths, of six clocks each (MIDI 1.0, song position pointer). */
const CLOCKS_PER_POSITION = 6;

/** Where a MIDI clock that comes in stands: its tempo by a line through its last clocks, its beat by counting them. */
export class SongClock {
  private readonly follower = new ClockFollower();
  private next = 0;
  private running = false;

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
    if (!this.running) return { bpm, beat: NaN };
    const beat = this.next++ / CLOCKS_PER_BEAT;
    return { bpm, beat: Number.isNaN(bpm) ? beat : beat + (timeMs - this.follower.fittedMs) / msPerBeat(bpm) };
  }
}
