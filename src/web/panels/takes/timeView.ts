/** The closest look: so many pixels are a millisecond. */
const CLOSEST_PX_A_MS = 2;
/** What is seen of an empty take. */
const LEAST_MS = 1000;

/** Two fingers nearer than this count as so far apart. */
const NEAREST_PX = 20;

/** Which stretch of a take is on screen. Whoever draws it listens. */
export class TimeView {
  fromMs = 0;
  private shownMs: number;
  private widthPx = 1;
  private readonly listeners = new Set<() => void>();

  constructor(readonly lengthMs: number) {
    this.shownMs = Math.max(LEAST_MS, lengthMs);
  }

  get toMs(): number {
    return this.fromMs + this.shownMs;
  }

  get msPerPx(): number {
    return this.shownMs / this.widthPx;
  }

  setWidth(px: number): void {
    if (this.widthPx === Math.max(1, px)) return;
    this.widthPx = Math.max(1, px);
    this.show(this.fromMs, this.shownMs);
  }

  timeAt(px: number): number {
    return this.fromMs + px * this.msPerPx;
  }

  placeOf(ms: number): number {
    return (ms - this.fromMs) / this.msPerPx;
  }

  /** Along by so many pixels. */
  along(px: number): void {
    this.show(this.fromMs + px * this.msPerPx, this.shownMs);
  }

  /** Closer by a factor, what is at `px` staying there. */
  closer(factor: number, px = this.widthPx / 2): void {
    const atMs = this.timeAt(px);
    const shownMs = this.limited(this.shownMs / factor);
    this.show(atMs - (px / this.widthPx) * shownMs, shownMs);
  }

  /** One of two fingers moves, the other stands still: each keeps the time that is beneath it, so both together move it along. */
  pull(fromPx: number, toPx: number, stillPx: number): void {
    const apart = (px: number) => Math.max(NEAREST_PX, Math.abs(px - stillPx));
    this.closer(apart(toPx) / apart(fromPx), stillPx);
  }

  all(): void {
    this.show(0, Math.max(LEAST_MS, this.lengthMs));
  }

  /** Turns on where a time runs out of what is shown. */
  follow(ms: number): void {
    if (ms < this.fromMs || ms > this.toMs) this.show(ms - 0.1 * this.shownMs, this.shownMs);
  }

  listen(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  private limited(shownMs: number): number {
    return Math.min(Math.max(LEAST_MS, this.lengthMs), Math.max(this.widthPx / CLOSEST_PX_A_MS, shownMs));
  }

  private show(fromMs: number, shownMs: number): void {
    this.shownMs = this.limited(shownMs);
    this.fromMs = Math.max(0, Math.min(fromMs, Math.max(0, this.lengthMs - this.shownMs)));
    for (const listener of this.listeners) listener();
  }
}
