/** One ping: how far the hub's clock was ahead of the page's, surely within `errorMs` (half the round trip), and when its answer came. */
interface Ping {
  receivedPageMs: number;
  offsetMs: number;
  errorMs: number;
}

const KEPT = 60;
/** Clocks of computers go apart by less than this (100 ppm: common practice for quartz). */
const DRIFT = 1e-4;

/**
 * Estimates how far the hub's clock is ahead of the page's. The ping that can be wrong by least wins: by half of its round trip, and
 * by what the clocks may have drifted since (the clock filter of NTP, RFC 5905 section 10). So a minute in which the machine is busy
 * moves nothing. Where an old ping contradicts a new one, a clock stood still meanwhile, and it is forgotten.
 */
export class ClockOffset {
  private pings: Ping[] = [];

  add(sentPageMs: number, receivedPageMs: number, hubTimeMs: number): void {
    const ping: Ping = { receivedPageMs, offsetMs: hubTimeMs - (sentPageMs + receivedPageMs) / 2, errorMs: (receivedPageMs - sentPageMs) / 2 };
    const agree = (old: Ping) => Math.abs(old.offsetMs - ping.offsetMs) <= errorAt(old, receivedPageMs) + ping.errorMs;
    this.pings = [...this.pings.filter(agree), ping].slice(-KEPT);
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
    const nowMs = this.pings.at(-1)?.receivedPageMs ?? 0;
    return this.pings.reduce<Ping | undefined>((best, ping) => (best && errorAt(best, nowMs) < errorAt(ping, nowMs) ? best : ping), undefined);
  }
}

const errorAt = ({ errorMs, receivedPageMs }: Ping, pageMs: number): number => errorMs + (pageMs - receivedPageMs) * DRIFT;
