import type { RawLine } from '../../protocol/live';
import { LIMITS } from '../../protocol/limits';
import type { Device } from './intake';

/** A person reads; ten times a second is often enough. */
const SHOW_MS = 100;

/** The raw messages of one device as one page lists them, a bundle at a time; of too many the oldest go and are counted. */
export class RawList {
  private lines: RawLine[] = [];
  private dropped = 0;
  private readonly timer = setInterval(() => this.show(), SHOW_MS);

  constructor(
    readonly input: string,
    readonly device: Device,
    private readonly onLines: (lines: RawLine[], dropped: number) => void,
  ) {
    device.rawListeners.add(this.add);
  }

  close(): void {
    clearInterval(this.timer);
    this.device.rawListeners.delete(this.add);
  }

  private readonly add = (line: RawLine): void => {
    if (this.lines.length >= LIMITS.rawLines) {
      this.lines.shift();
      this.dropped++;
    }
    this.lines.push(line);
  };

  private show(): void {
    if (this.lines.length === 0) return;
    this.onLines(this.lines, this.dropped);
    this.lines = [];
    this.dropped = 0;
  }
}
