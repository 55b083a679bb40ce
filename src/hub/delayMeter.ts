/** The delay from a finger to its bytes over the last few hundred messages, for the top bar. */
export class DelayMeter {
  private readonly delaysMs = new Float64Array(512);
  private count = 0;

  add(delayMs: number): void {
    this.delaysMs[this.count++ % this.delaysMs.length] = delayMs;
  }

  /** Median and 99th percentile of what was added since the last call; null where nothing was. */
  take(): { p50Ms: number | null; p99Ms: number | null } {
    const sorted = this.delaysMs.slice(0, Math.min(this.count, this.delaysMs.length)).sort();
    this.count = 0;
    if (sorted.length === 0) return { p50Ms: null, p99Ms: null };
    return { p50Ms: sorted[sorted.length >> 1]!, p99Ms: sorted[Math.floor(sorted.length * 0.99)]! };
  }
}
