/** How long the dot of a picture leaves a trail. */
export const TRAIL_MS = 1500;
const KEPT = 256;

/** Where a dot has been lately: a value and the level that was made of it. */
export class Trail {
  private at: { value: number; level: number } | null = null;
  private points: { timeMs: number; value: number; level: number }[] = [];

  /**
   * Takes in where the dot is.
   * @returns whether it moved there: where it is seen first it stood before, and leaves no trail
   */
  move(timeMs: number, value: number, level: number): boolean {
    const moved = this.at !== null && (this.at.value !== value || this.at.level !== level);
    this.at = { value, level };
    if (!moved) return false;
    this.points.push({ timeMs, value, level });
    if (this.points.length > KEPT) this.points.shift();
    return true;
  }

  /** Oldest first, each with its age as a share of the length of the trail. */
  since(nowMs: number): { age: number; value: number; level: number }[] {
    this.points = this.points.filter(({ timeMs }) => nowMs - timeMs < TRAIL_MS);
    return this.points.map(({ timeMs, value, level }) => ({ age: (nowMs - timeMs) / TRAIL_MS, value, level }));
  }
}
