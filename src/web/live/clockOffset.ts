/** One ping: when the page sent it, when the answer came (both page time), and the hub's time in the answer. */
interface Ping {
  roundTripMs: number;
  offsetMs: number;
}

const KEPT = 8;

/**
 * Estimates how far the hub's clock is ahead of the page's. Of the last few pings the one with the smallest round trip
 * wins: its answer had the least time to be late in.
 */
export class ClockOffset {
  private pings: Ping[] = [];

  add(sentPageMs: number, receivedPageMs: number, hubTimeMs: number): void {
    const roundTripMs = receivedPageMs - sentPageMs;
    this.pings = [...this.pings, { roundTripMs, offsetMs: hubTimeMs - (sentPageMs + receivedPageMs) / 2 }].slice(-KEPT);
  }

  forget(): void {
    this.pings = [];
  }

  /** Hub time of a page time in ms; 0, which says "unknown", before the first ping came back. */
  toHub(pageTimeMs: number): number {
    const best = this.best();
    return best ? pageTimeMs + best.offsetMs : 0;
  }

  private best(): Ping | undefined {
    return this.pings.reduce<Ping | undefined>((best, ping) => (best && best.roundTripMs <= ping.roundTripMs ? best : ping), undefined);
  }
}
