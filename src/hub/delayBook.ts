import { BIN_ENDS_MS, type DelayReport } from '../protocol/delays';

/** The last minute is told of; where more left than this, the last of it. */
const MOST = 1 << 15;
const KEPT_MS = 60_000;

/** Whose delays are asked for: of everything, of what leaves by one output, or of one mapping; hub numbers. */
export interface DelaysOf {
  output?: number;
  mapping?: number;
}

/** How long everything that left in the last minute took from the finger to its bytes, and where that time went. */
export class DelayBook {
  private readonly atMs = new Float64Array(MOST);
  private readonly outputs = new Uint16Array(MOST);
  /** -1 where no mapping caused it. */
  private readonly mappings = new Int32Array(MOST);
  private readonly totals = new Float32Array(MOST);
  private readonly pages = new Float32Array(MOST);
  private readonly lines = new Float32Array(MOST);
  private count = 0;

  /** @param lineMs from the page to here; what is left of `totalMs` went by here. */
  add(nowMs: number, output: number, mapping: number, totalMs: number, pageMs: number, lineMs: number): void {
    const i = this.count++ % MOST;
    this.atMs[i] = nowMs;
    this.outputs[i] = output;
    this.mappings[i] = mapping;
    this.totals[i] = totalMs;
    this.pages[i] = pageMs;
    this.lines[i] = lineMs;
  }

  report(nowMs: number, { output, mapping }: DelaysOf): DelayReport {
    const which: number[] = [];
    for (let i = 0; i < Math.min(this.count, MOST); i++) {
      if (nowMs - this.atMs[i]! > KEPT_MS || (output !== undefined && this.outputs[i] !== output) || (mapping !== undefined && this.mappings[i] !== mapping)) continue;
      which.push(i);
    }
    const sorted = Float32Array.from(which, (i) => this.totals[i]!).sort();
    const bins = BIN_ENDS_MS.map(() => 0);
    for (const total of sorted) bins[BIN_ENDS_MS.findIndex((end) => total < end)]!++;
    const none = sorted.length === 0;
    return {
      count: sorted.length,
      p50Ms: none ? null : sorted[sorted.length >> 1]!,
      p99Ms: none ? null : sorted[Math.floor(sorted.length * 0.99)]!,
      worstMs: none ? null : sorted[sorted.length - 1]!,
      bins,
      page: median(which, (i) => this.pages[i]!),
      line: median(which, (i) => this.lines[i]!),
      hub: median(which, (i) => this.totals[i]! - this.pages[i]! - this.lines[i]!),
    };
  }
}

function median(which: readonly number[], of: (i: number) => number): number | null {
  return which.length === 0 ? null : Float32Array.from(which, of).sort()[which.length >> 1]!;
}
