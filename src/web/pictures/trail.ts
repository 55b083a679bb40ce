/** How long the dot of a picture leaves a trail. */
export const TRAIL_MS = 1500;
const KEPT = 256;

/** Where a dot has been lately: a value and the level that was made of it. */
export class Trail {
  private points: { timeMs: number; value: number; level: number }[] = [];

  push(timeMs: number, value: number, level: number): void {
    this.points.push({ timeMs, value, level });
    if (this.points.length > KEPT) this.points.shift();
  }

  /** Oldest first, each with its age as a share of the length of the trail. */
  since(nowMs: number): { age: number; value: number; level: number }[] {
    this.points = this.points.filter(({ timeMs }) => nowMs - timeMs < TRAIL_MS);
    return this.points.map(({ timeMs, value, level }) => ({ age: (nowMs - timeMs) / TRAIL_MS, value, level }));
  }
}
