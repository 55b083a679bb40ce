import type { RawLine } from '../../protocol/live';
import { LIMITS } from '../../protocol/limits';
import type { Intake } from './intake';

/** A person reads; ten times a second is often enough. */
const SHOW_MS = 100;

/** The raw messages of one input as one page lists them, a bundle at a time; of too many the oldest go and are counted. */
export class RawList {
  private lines: RawLine[] = [];
  private dropped = 0;
  private readonly timer = setInterval(() => this.show(), SHOW_MS);

  private readonly remove: () => void;

  constructor(
    readonly input: string,
    intake: Intake,
    private readonly onLines: (lines: RawLine[], dropped: number) => void,
  ) {
    this.remove = intake.listRaw(input, (line) => this.add(line));
  }

  close(): void {
    clearInterval(this.timer);
    this.remove();
  }

  private add(line: RawLine): void {
    if (this.lines.length >= LIMITS.rawLines) {
      this.lines.shift();
      this.dropped++;
    }
    this.lines.push(line);
  }

  private show(): void {
    if (this.lines.length === 0) return;
    this.onLines(this.lines, this.dropped);
    this.lines = [];
    this.dropped = 0;
  }
}
