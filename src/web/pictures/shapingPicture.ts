import { transferOf } from '../../core/mapping/transfer';
import type { RigDerived, RigMapping, RigSignal } from '../../core/rig/document';
import type { LiveConnection } from '../live/connection';
import type { Drawing } from './drawing';
import { drawDot, drawTransfer, transferAxes, transferPath } from './drawTransfer';
import type { LivePicture } from './livePicture';
import { Trail, TRAIL_MS } from './trail';

/** What a mapping makes of its signal: the signal's range across, the message's range up, a dot where it is now and its trail. */
export class ShapingPicture implements LivePicture {
  private readonly removers: (() => void)[];
  private readonly transfer: (value: number) => number;

  /** @param trail where the dot was, where this picture takes the place of another */
  constructor(
    private readonly live: LiveConnection,
    readonly mapping: RigMapping,
    private readonly signal: RigSignal | RigDerived,
    wake: (forMs?: number) => void,
    readonly trail = new Trail(),
  ) {
    this.transfer = transferOf(mapping, signal);
    const leave = () => {
      const [value, level] = [live.store.signals.value(signal.id), live.store.levels.value(mapping.id)];
      const moved = value !== undefined && level !== undefined && this.trail.move(performance.now(), value, level);
      wake(moved ? TRAIL_MS : 0);
    };
    this.removers = [live.store.signals.listen(signal.id, leave), live.store.levels.listen(mapping.id, leave)];
  }

  draw(drawing: Drawing): void {
    const { context, palette, nowMs } = drawing;
    const { live, mapping, signal, transfer } = this;
    const axes = transferAxes(signal.range, mapping.message, drawing);
    drawTransfer(drawing, transferPath(signal.range, transfer, axes));
    context.fillStyle = palette.alive;
    for (const { age, value, level } of this.trail.since(nowMs)) {
      context.globalAlpha = (1 - age) * 0.7;
      context.beginPath();
      context.arc(axes.x(value), axes.y(level), 2, 0, 2 * Math.PI);
      context.fill();
    }
    context.globalAlpha = 1;
    const value = live.store.signals.value(signal.id);
    const level = live.store.levels.value(mapping.id);
    if (value !== undefined && level !== undefined) drawDot(drawing, axes, value, level, transfer(value));
  }

  remove(): void {
    for (const remove of this.removers) remove();
  }
}
