import { RefusedError } from './fetchRig';
import { ofBrowser } from '../remember';

/** Changes that come together are kept together. */
const KEEP_MS = 400;

interface Kept<T> {
  /** What it is called in a sentence: `profiles`. */
  what: string;
  fetch(): Promise<T>;
  put(settings: T): Promise<unknown>;
  /** Where a device that joined keeps its own: what the host keeps is not its own. */
  browserKey: string;
  /** What was kept by this browser, from JSON; undefined for nothing. What cannot be read any more is as if it were not there. */
  read(kept: unknown): T;
}

/** Settings of performers, kept by the program on its own computer, and on a device that joined by its browser. */
export class KeptSettings<T> {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private waits: { settings: T } | null = null;
  private puts: Promise<void> = Promise.resolve();
  private underWay = 0;
  private isOfBrowser = false;
  /** False where the program has some that could not be read. */
  isWhole = true;

  /** Told what is wrong in one sentence, and null once it is right again. */
  constructor(
    private readonly kept: Kept<T>,
    private readonly onProblem: (sentence: string | null) => void,
  ) {}

  load(): Promise<T> {
    // What this browser alone keeps is not what the program has.
    if (this.isOfBrowser) return Promise.resolve(this.keptHere());
    return this.kept.fetch().catch((error: unknown) => {
      this.isOfBrowser = true;
      // A device that joined is told no more than that.
      const isDevice = error instanceof RefusedError && error.problem.code === 'forbidden';
      this.isWhole = isDevice;
      if (!isDevice) this.onProblem(`The ${this.kept.what} cannot be read (${error instanceof RefusedError ? error.message : 'Pumice does not answer'}): what is changed now is kept by this browser alone.`);
      return this.keptHere();
    });
  }

  keep(settings: T): void {
    if (this.isOfBrowser) return ofBrowser.set(this.kept.browserKey, JSON.stringify(settings));
    this.waits = { settings };
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), KEEP_MS);
  }

  /**
   * Keeps now what was changed; one after another, or of two changes the earlier might be kept.
   * @param leaves whether the page goes, and nothing can be done later
   */
  flush(leaves = false): Promise<void> {
    clearTimeout(this.timer);
    return (this.puts = leaves ? this.put() : this.puts.then(() => this.put()));
  }

  private async put(): Promise<void> {
    const { waits } = this;
    if (!waits) return;
    this.waits = null;
    this.underWay++;
    await this.kept.put(waits.settings).then(
      () => this.onProblem(null),
      (error) => {
        this.waits ??= waits;
        this.onProblem(error instanceof RefusedError ? `The ${this.kept.what} were not kept: ${error.message}` : `The ${this.kept.what} were not kept: Pumice does not answer. It is tried again with the next change.`);
      },
    );
    this.underWay--;
  }

  /** Whether everything that was changed here is kept. */
  get isKept(): boolean {
    return this.waits === null && this.underWay === 0;
  }

  private keptHere(): T {
    try {
      return this.kept.read(JSON.parse(ofBrowser.get(this.kept.browserKey) ?? 'null') ?? undefined);
    } catch {
      return this.kept.read(undefined);
    }
  }
}
