/** Further off than this they are another: two clocks that are compared over a line tremble, and what is rounded must not with them. */
const OFF_MS = 750;

/** How far the hub's clock is behind the calendar, in ms, by whole seconds: it stands still while the computer sleeps. */
export class Calendar {
  private knownMs = NaN;

  /** @param hubNowMs 0: not known yet */
  behindMs(hubNowMs: number, nowMs: number): number {
    if (hubNowMs === 0) return 0;
    const behindMs = nowMs - hubNowMs;
    if (!(Math.abs(behindMs - this.knownMs) < OFF_MS)) this.knownMs = 1000 * Math.round(behindMs / 1000);
    return this.knownMs;
  }
}
