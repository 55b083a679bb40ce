import { transferOf } from '../../core/mapping/transfer';
import type { RigDerived, RigMapping, RigSignal } from '../../core/rig/document';
import { rangeIn } from '../../core/shaping/rangeIn';
import type { LiveConnection } from '../live/connection';
import type { Drawing } from './drawing';
import { drawTrace, drawTraceEnd, isAlive } from './drawTrace';
import { drawDot, drawTransfer, transferAxes, transferPath } from './drawTransfer';
import type { LivePicture } from './livePicture';
import { Trace, TRACE_MS } from './trace';

/** The picture of the shaping at the right end, and what is free before it. */
const TRANSFER_PX = 72;
const GAP_PX = 14;
const EDGE_PX = 3;

/** The trace of a signal and the picture of its shaping on one canvas: hundreds of bands are as many pictures, not twice. */
export class BandPicture implements LivePicture {
  private readonly removers: (() => void)[];
  private readonly transfer: (value: number) => number;
  private changedMs = -Infinity;
  private curve: { height: number; path: Path2D } | null = null;

  /** @param trace what was seen of the signal before, where this picture takes the place of another */
  constructor(
    private readonly live: LiveConnection,
    readonly mapping: RigMapping,
    private readonly signal: RigSignal | RigDerived,
    wake: (forMs?: number) => void,
    readonly trace = new Trace(),
  ) {
    this.transfer = transferOf(mapping, signal);
    this.removers = [
      live.store.signals.listen(signal.id, (value) => {
        const nowMs = performance.now();
        if (value !== trace.latest) this.changedMs = nowMs;
        trace.push(nowMs, value);
        wake(TRACE_MS);
      }),
      live.store.levels.listen(mapping.id, () => wake()),
    ];
  }

  draw(drawing: Drawing): void {
    const { context, width, height, nowMs, palette } = drawing;
    const { live, mapping, signal, trace, transfer } = this;
    const left: Drawing = { ...drawing, width: width - TRANSFER_PX - GAP_PX };
    context.fillStyle = palette.hairline;
    context.fillRect(0, height - EDGE_PX, left.width, 1);
    const toUnit = (value: number) => rangeIn(value, signal.range[0], signal.range[1]);
    drawTrace(left, trace, toUnit, palette.ink);
    drawTraceEnd(left, trace, toUnit, isAlive(this.changedMs, nowMs));

    const right: Drawing = { ...drawing, width: TRANSFER_PX, height: height - 2 * EDGE_PX };
    const axes = transferAxes(signal.range, mapping.message, right);
    if (this.curve?.height !== height) this.curve = { height, path: transferPath(signal.range, transfer, axes) };
    context.save();
    context.translate(width - TRANSFER_PX, EDGE_PX);
    context.fillStyle = palette.raised;
    context.fillRect(0, 0, right.width, right.height);
    drawTransfer(right, this.curve.path);
    const value = live.store.signals.value(signal.id);
    const level = live.store.levels.value(mapping.id);
    if (value !== undefined && level !== undefined) drawDot(right, axes, value, level, transfer(value));
    context.restore();
  }

  remove(): void {
    for (const remove of this.removers) remove();
  }
}
