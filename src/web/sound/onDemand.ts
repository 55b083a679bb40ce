import type { BaseContext } from './tone';

/** What has rung out is kept so much longer: it may be asked for again, and to make it takes a millisecond or two. */
const KEPT_S = 5;

/**
 * Something that sounds, made when it has to and given back when it was silent for a while: the signals inside of a voice are computed
 * while it is there, heard or not, and the silent voices of five instruments would keep a core busy.
 */
export class OnDemand<T extends { dispose(): unknown }> {
  private made: T | null = null;
  private rest = 0;
  private readonly changes = new Map<string, (of: T) => unknown>();

  constructor(
    private readonly context: Pick<BaseContext, 'setTimeout' | 'clearTimeout'>,
    private readonly make: () => T,
  ) {}

  /** What sounds, or rings out; null for nothing. */
  get awake(): T | null {
    return this.made;
  }

  wake(): T {
    this.context.clearTimeout(this.rest);
    if (!this.made) {
      this.made = this.make();
      for (const change of this.changes.values()) change(this.made);
    }
    return this.made;
  }

  /** It will be silent in so many seconds, if nobody wakes it before. */
  restAfter(seconds: number): void {
    this.context.clearTimeout(this.rest);
    if (this.made) this.rest = this.context.setTimeout(() => this.dispose(), seconds + KEPT_S);
  }

  /** Changes it, also when it is made later; the newest change of a name counts. */
  change(name: string, change: (of: T) => unknown): void {
    this.changes.set(name, change);
    if (this.made) change(this.made);
  }

  dispose(): void {
    this.context.clearTimeout(this.rest);
    this.made?.dispose();
    this.made = null;
  }
}
