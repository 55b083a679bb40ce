import { LIMITS } from '../protocol/limits';
import { hubTimeMs } from './time';

const WINDOW_MS = 10_000;

/** Counts bad frames of one connection, so that a broken page fills neither the log nor our time. */
export class BadFrames {
  private windowStartMs = 0;
  private count = 0;

  /** Counts one. `log`: it should be written down; `close`: there were too many in ten seconds. */
  add(): { log: boolean; close: boolean } {
    const nowMs = hubTimeMs();
    if (nowMs - this.windowStartMs > WINDOW_MS) {
      this.windowStartMs = nowMs;
      this.count = 0;
    }
    this.count++;
    return { log: this.count <= 10, close: this.count > LIMITS.badFramesPerTenSeconds };
  }
}
