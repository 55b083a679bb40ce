/** What moves within this of the first is taken to have moved with it. */
const TOGETHER_MS = 400;

/** Listens for the one controller that moves, so that a parameter can learn it. */
export class Learner {
  private readonly heard = new Map<string, { channel: number; controller: number }>();
  private firstMs = NaN;

  /** A controller changed. */
  moved(channel: number, controller: number, timeMs: number): void {
    if (Number.isNaN(this.firstMs)) this.firstMs = timeMs;
    this.heard.set(`${channel} ${controller}`, { channel, controller });
  }

  /** Null: still listening. One: that is it. Several moved together: none can be meant, and all are named. */
  result(timeMs: number): { channel: number; controller: number }[] | null {
    return timeMs - this.firstMs >= TOGETHER_MS ? [...this.heard.values()] : null;
  }
}
