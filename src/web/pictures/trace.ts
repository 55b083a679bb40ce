import type { SlotsById } from '../live/slots';

/** How much of the past a trace shows. */
export const TRACE_MS = 4000;
const KEPT = 512;

/** The last few seconds of a value, as points in time; the newest overwrite the oldest. */
export class Trace {
  private readonly timesMs = new Float64Array(KEPT);
  private readonly values = new Float64Array(KEPT);
  private count = 0;

  private push(timeMs: number, value: number): void {
    this.timesMs[this.count % KEPT] = timeMs;
    this.values[this.count % KEPT] = value;
    this.count++;
  }

  /**
   * Takes in what is told of a value, until the function given back is called. What is told first stood there before,
   * unless there was none.
   * @param heard called with each, and whether it moved
   */
  follow(values: SlotsById<number>, id: string, heard: (moved: boolean) => void): () => void {
    const hear = (value: number, isFirst: boolean) => {
      const stood = this.count === 0 && !isFirst;
      const moved = !stood && value !== this.latest;
      this.push(stood ? -Infinity : performance.now(), value);
      heard(moved);
    };
    const known = values.keptUp(id);
    if (known !== undefined) hear(known, false);
    return values.listen(id, hear);
  }

  get latest(): number | undefined {
    return this.count === 0 ? undefined : this.values[(this.count - 1) % KEPT];
  }

  /** Oldest first: every point that is younger than TRACE_MS, and the one before them where the line comes from. */
  *since(nowMs: number): Generator<[timeMs: number, value: number]> {
    const oldest = Math.max(0, this.count - KEPT);
    let from = this.count;
    while (from > oldest && this.timesMs[(from - 1) % KEPT]! > nowMs - TRACE_MS) from--;
    for (let i = Math.max(oldest, from - 1); i < this.count; i++) yield [this.timesMs[i % KEPT]!, this.values[i % KEPT]!];
  }
}
