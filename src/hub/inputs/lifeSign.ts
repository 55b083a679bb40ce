import { hubTimeMs } from '../time';

/**
 * A device that says now and then that it is there (MIDI 1.0, Active Sensing) says something every 300 ms. Here it is only missed after this
 * long: a note that is cut off because a computer was busy is worse than one that sounds on for a moment.
 */
const MISSED_MS = 1000;

/** Watches for the end of a device's signs of life, once it has given one. */
export class LifeSign {
  private heardMs = 0;
  private timer: NodeJS.Timeout | null = null;

  /** @param onMissed told once; then nothing is expected until it gives a sign of life again */
  constructor(private readonly onMissed: () => void) {}

  /** It said something, whatever it was. */
  heard(timeMs: number): void {
    this.heardMs = timeMs;
  }

  /** It said that it is there, and so will go on saying it. */
  given(): void {
    if (!this.timer) this.wait(MISSED_MS);
  }

  stop(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
  }

  private wait(ms: number): void {
    const dueMs = hubTimeMs() + ms;
    this.timer = setTimeout(() => {
      const nowMs = hubTimeMs();
      const silentMs = nowMs - this.heardMs;
      // A hub that was held up itself has not heard yet what came meanwhile.
      if (nowMs - dueMs > MISSED_MS / 4) this.wait(MISSED_MS);
      else if (silentMs < MISSED_MS) this.wait(MISSED_MS - silentMs);
      else {
        this.timer = null;
        this.onMissed();
      }
    }, ms);
  }
}
