const KEPT = 8;
/** 64 bits that go round, as a signed distance. */
const signed = (ticks: bigint) => BigInt.asIntN(64, ticks);

/**
 * How far the clock of a peer is ahead of ours, in tenths of milliseconds, from exchanges of times. The one that took the
 * shortest way there and back says it best, for what made others longer made them lopsided.
 */
export class ClockOffset {
  private readonly kept: { aheadTicks: bigint; wayTicks: bigint }[] = [];

  /** One exchange: when ours was said, when theirs was, and when ours was heard again. */
  took(oursFirst: bigint, theirs: bigint, oursLast: bigint): void {
    const wayTicks = signed(oursLast - oursFirst);
    if (wayTicks < 0n) return;
    this.add(signed(theirs - (oursFirst + wayTicks / 2n)), wayTicks);
  }

  /** One that the other began. */
  wasTaken(theirsFirst: bigint, ours: bigint, theirsLast: bigint): void {
    const wayTicks = signed(theirsLast - theirsFirst);
    if (wayTicks < 0n) return;
    this.add(signed(theirsFirst + wayTicks / 2n - ours), wayTicks);
  }

  /** Null before the first. */
  get aheadTicks(): bigint | null {
    return this.best?.aheadTicks ?? null;
  }

  /** There and back, in ms; null before the first. */
  get wayMs(): number | null {
    return this.best === null ? null : Number(this.best.wayTicks) / 10;
  }

  private get best() {
    return this.kept.length === 0 ? null : this.kept.reduce((best, one) => (one.wayTicks < best.wayTicks ? one : best));
  }

  private add(aheadTicks: bigint, wayTicks: bigint): void {
    this.kept.push({ aheadTicks, wayTicks });
    if (this.kept.length > KEPT) this.kept.shift();
  }
}
