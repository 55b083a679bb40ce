import type { RigMapping } from '../../core/rig/document';
import type { LiveConnection } from '../live/connection';
import type { Drawing } from './drawing';
import type { LivePicture } from './livePicture';
import { fullness, fullnessAtRest } from '../../core/messages';

/** How long a meter stays lit after it moved. */
export const LIT_MS = 400;

/** What leaves a mapping now, as a bar; from its middle where that is both up and down. */
export class MeterPicture implements LivePicture {
  private readonly unsubscribe: () => void;
  private heardMs = -Infinity;
  /** What is told first stood there before, unless there was none. */
  private isKnown: boolean;

  constructor(
    private readonly live: LiveConnection,
    private readonly mapping: RigMapping,
    wake: (forMs?: number) => void,
  ) {
    this.isKnown = live.store.levels.keptUp(mapping.id) !== undefined;
    this.unsubscribe = live.store.levels.listen(mapping.id, (_, isFirst) => {
      if (this.isKnown || isFirst) this.heardMs = performance.now();
      this.isKnown = true;
      // Once more when it is lit no longer.
      wake(LIT_MS + 50);
    });
  }

  draw({ context, width, height, palette, nowMs }: Drawing): void {
    context.beginPath();
    context.roundRect(0, 0, width, height, height / 2);
    context.fillStyle = palette.sunken;
    context.fill();
    const level = this.live.store.levels.value(this.mapping.id);
    if (level === undefined) return;
    context.save();
    context.clip();
    context.fillStyle = nowMs - this.heardMs < LIT_MS ? palette.alive : palette.accent;
    const [rest, now] = [fullnessAtRest(this.mapping.message), fullness(this.mapping.message, level)];
    context.fillRect(width * Math.min(rest, now), 0, width * Math.abs(now - rest), height);
    // Where both ways begin stands out also while it is there.
    if (rest > 0 && rest < 1) {
      context.fillStyle = palette.quiet;
      context.fillRect(Math.round(width * rest) - 1, 0, 2, height);
    }
    context.restore();
  }

  remove(): void {
    this.unsubscribe();
  }
}
