import type { RigMapping } from '../../core/rig/document';
import type { LiveConnection } from '../live/connection';
import type { Drawing } from './drawing';
import type { LivePicture } from './livePicture';
import { fullness } from '../../core/messages';

/** How long a meter stays lit after it moved. */
export const LIT_MS = 400;

/** What leaves a mapping now, as a bar. */
export class MeterPicture implements LivePicture {
  private readonly unsubscribe: () => void;
  private heardMs = -Infinity;

  constructor(
    private readonly live: LiveConnection,
    private readonly mapping: RigMapping,
    wake: (forMs?: number) => void,
  ) {
    this.unsubscribe = live.store.levels.listen(mapping.id, () => {
      this.heardMs = performance.now();
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
    context.fillRect(0, 0, width * fullness(this.mapping.message, level), height);
    context.restore();
  }

  remove(): void {
    this.unsubscribe();
  }
}
