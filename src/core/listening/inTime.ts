import { HOP_MS } from './audio';

/** Blocks of audio that come no more than so much late are one stream; after a longer gap what was sung has ended. */
export const GAP_MS = 300;
/** A block that comes so late has nothing waiting before it. */
const NEW_MS = 30;

/**
 * Which blocks are heard where a computer is too busy to hear all: from one that waited for too long on none until one is new again. Otherwise
 * each would be heard later than the one before, and with them whatever else waits in line.
 */
export class Lateness {
  /** Of audio, so far. */
  leftOutMs = 0;
  private catchesUp = false;

  /** @param fromMs what was taken before waited for the listener itself */
  constructor(private fromMs: number) {}

  /** `takenMs`, when the block was taken, and `nowMs` of one clock. */
  isHeard(takenMs: number, nowMs: number): boolean {
    if (takenMs < this.fromMs) return false;
    // Asked once only, for the clock of a computer may be set back.
    this.fromMs = -Infinity;
    const lateMs = nowMs - takenMs;
    this.catchesUp = lateMs > (this.catchesUp ? NEW_MS : GAP_MS);
    if (this.catchesUp) this.leftOutMs += HOP_MS;
    return !this.catchesUp;
  }
}

/** How many hops are due of audio that is made as time passes. */
export class HopClock {
  constructor(private heardMs: number) {}

  /** Those since the last look. After a gap in which this computer slept or was too busy the newest alone: what was missed is left out. */
  due(nowMs: number): number {
    if (nowMs - this.heardMs > GAP_MS) {
      this.heardMs = nowMs;
      return 1;
    }
    const hops = Math.floor((nowMs - this.heardMs) / HOP_MS);
    this.heardMs += hops * HOP_MS;
    return hops;
  }
}
