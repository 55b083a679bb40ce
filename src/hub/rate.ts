/** Lets so many through in each second, by a clock of the caller's; what is beyond is to be left out. */
export class Rate {
  private windowMs = -Infinity;
  private count = 0;
  /** Left out in the present second. */
  over = 0;

  constructor(private readonly mostPerSecond: number) {}

  allows(nowMs: number): boolean {
    if (nowMs - this.windowMs >= 1000) {
      this.windowMs = nowMs;
      this.count = 0;
      this.over = 0;
    }
    if (++this.count <= this.mostPerSecond) return true;
    this.over++;
    return false;
  }
}
