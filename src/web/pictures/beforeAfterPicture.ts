import type { RigDerived, RigMapping, RigSignal } from '../../core/rig/document';
import { rangeIn } from '../../core/shaping/rangeIn';
import type { LiveConnection } from '../live/connection';
import type { Drawing } from './drawing';
import { drawTrace } from './drawTrace';
import type { LivePicture } from './livePicture';
import { Trace, TRACE_MS } from './trace';

/** A signal as it comes in and the level as it leaves, on one time axis. */
export class BeforeAfterPicture implements LivePicture {
  private readonly removers: (() => void)[];

  /** @param before, after what was seen of them already, where this picture takes the place of another */
  constructor(
    live: LiveConnection,
    readonly mapping: RigMapping,
    private readonly signal: RigSignal | RigDerived,
    wake: (forMs?: number) => void,
    readonly before = new Trace(),
    readonly after = new Trace(),
  ) {
    const heard = (moved: boolean) => wake(moved ? TRACE_MS : 0);
    this.removers = [before.follow(live.store.signals, signal.id, heard), after.follow(live.store.levels, mapping.id, heard)];
  }

  draw(drawing: Drawing): void {
    const { context, width, height, palette } = drawing;
    const { lo, hi } = this.mapping.shaping.rangeIn ?? { lo: this.signal.range[0], hi: this.signal.range[1] };
    context.strokeStyle = palette.hairline;
    context.lineWidth = 1;
    for (let second = 1; second < 4; second++) {
      const x = Math.round((width * second) / 4) + 0.5;
      context.beginPath();
      context.moveTo(x, 0);
      context.lineTo(x, height);
      context.stroke();
    }
    drawTrace(drawing, this.before, (value) => rangeIn(value, lo, hi), palette.quiet);
    drawTrace(drawing, this.after, (level) => level, palette.accent);
  }

  remove(): void {
    for (const remove of this.removers) remove();
  }
}
