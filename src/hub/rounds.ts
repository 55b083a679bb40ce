import { hubTimeMs } from './time';

/** A round that comes later than this after its time was held up. */
const LATE_MS = 250;

/**
 * Rounds in which is looked whether others still answer. One that comes late was held up itself (a sleep, a machine that stood still),
 * and what they said may wait to be read: of their silence it says nothing.
 */
export class Rounds {
  private lastMs = hubTimeMs();

  constructor(private readonly everyMs: number) {}

  /** A round begins; false where it was held up. */
  begin(): boolean {
    const nowMs = hubTimeMs();
    const inTime = nowMs - this.lastMs <= this.everyMs + LATE_MS;
    this.lastMs = nowMs;
    return inTime;
  }
}
