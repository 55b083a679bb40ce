import type { RigDerived, RigSignal } from '../../core/rig/document';
import { rangeIn } from '../../core/shaping/rangeIn';
import type { LiveConnection } from '../live/connection';
import type { Drawing } from './drawing';
import { drawTrace, drawTraceEnd, isAlive } from './drawTrace';
import type { LivePicture } from './livePicture';
import { Trace, TRACE_MS } from './trace';

/** The last four seconds of a signal over a line; sulphur at their end while it moves. */
export class TracePicture implements LivePicture {
  private readonly unsubscribe: () => void;
  private changedMs = -Infinity;

  /** @param trace what was seen of the signal before, where this picture takes the place of another */
  constructor(
    live: LiveConnection,
    readonly signal: RigSignal | RigDerived,
    wake: (forMs?: number) => void,
    readonly trace = new Trace(),
  ) {
    this.unsubscribe = trace.follow(live.store.signals, signal.id, (moved) => {
      if (moved) this.changedMs = performance.now();
      wake(moved ? TRACE_MS : 0);
    });
  }

  draw(drawing: Drawing): void {
    const { context, width, height, nowMs, palette } = drawing;
    const [lo, hi] = this.signal.range;
    const toUnit = (value: number) => rangeIn(value, lo, hi);
    context.fillStyle = palette.hairline;
    context.fillRect(0, height - 1, width, 1);
    drawTrace(drawing, this.trace, toUnit, palette.ink);
    drawTraceEnd(drawing, this.trace, toUnit, isAlive(this.changedMs, nowMs));
  }

  remove(): void {
    this.unsubscribe();
  }
}
