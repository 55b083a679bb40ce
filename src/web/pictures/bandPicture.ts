import { transferOf } from '../../core/mapping/transfer';
import type { RigDerived, RigMapping, RigSignal } from '../../core/rig/document';
import type { LiveConnection } from '../live/connection';
import type { Drawing } from './drawing';
import { drawDot, drawTransfer, transferAxes, transferPath } from './drawTransfer';
import type { LivePicture } from './livePicture';
import type { Trace } from './trace';
import { TracePicture } from './tracePicture';

/** The picture of the shaping at the right end, and what is free before it. */
const TRANSFER_PX = 72;
const GAP_PX = 14;
const EDGE_PX = 3;

/** The trace of a signal and the picture of its shaping on one canvas: hundreds of bands are as many pictures, not twice. */
export class BandPicture implements LivePicture {
  private readonly left: TracePicture;
  private readonly unsubscribe: () => void;
  private readonly transfer: (value: number) => number;
  private curve: { height: number; path: Path2D } | null = null;

  /** @param trace what was seen of the signal before, where this picture takes the place of another */
  constructor(
    private readonly live: LiveConnection,
    readonly mapping: RigMapping,
    private readonly signal: RigSignal | RigDerived,
    wake: (forMs?: number) => void,
    trace?: Trace,
  ) {
    this.transfer = transferOf(mapping, signal);
    this.left = new TracePicture(live, signal, wake, trace);
    this.unsubscribe = live.store.levels.listen(mapping.id, () => wake());
  }

  get trace(): Trace {
    return this.left.trace;
  }

  draw(drawing: Drawing): void {
    const { context, width, height, palette } = drawing;
    const { live, mapping, signal, transfer } = this;
    this.left.draw({ ...drawing, width: width - TRANSFER_PX - GAP_PX, height: height - EDGE_PX + 1 });

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
    this.left.remove();
    this.unsubscribe();
  }
}
