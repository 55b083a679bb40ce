/** A fact that may change: what it is now, and who wants to hear of another. */
export class Slot<T> {
  private readonly listeners = new Set<() => void>();
  private now: T;

  constructor(
    /** What it is before anything was said: what the server draws, and a page until it takes that over. */
    readonly first: T,
    /** Called after somebody began or ceased to listen. */
    private readonly onListeners: () => void = () => undefined,
  ) {
    this.now = first;
  }

  get value(): T {
    return this.now;
  }

  set(value: T): void {
    this.now = value;
    for (const listener of this.listeners) listener();
  }

  listen(listener: () => void): () => void {
    this.listeners.add(listener);
    this.onListeners();
    return () => {
      this.listeners.delete(listener);
      this.onListeners();
    };
  }

  get isWatched(): boolean {
    return this.listeners.size > 0;
  }
}

/** Things that happen, each to one of several: whoever listens to it hears of it, nobody is told later. */
export class Happenings<Args extends unknown[]> {
  private readonly byId = new Map<string, Set<(...args: Args) => void>>();

  constructor(private readonly onListeners: () => void = () => undefined) {}

  listen(id: string, listener: (...args: Args) => void): () => void {
    const listeners = this.byId.get(id) ?? new Set();
    this.byId.set(id, listeners.add(listener));
    this.onListeners();
    return () => {
      listeners.delete(listener);
      if (listeners.size === 0 && this.byId.get(id) === listeners) this.byId.delete(id);
      this.onListeners();
    };
  }

  tell(id: string, ...args: Args): void {
    for (const listener of this.byId.get(id) ?? []) listener(...args);
  }

  protected isWatched(id: string): boolean {
    return this.byId.has(id);
  }

  /** What somebody listens to. */
  get watched(): string[] {
    return [...this.byId.keys()];
  }
}

/** Facts of one kind, by id; it is told with each whether it is the first, where it is known that there was none before. */
export class SlotsById<T> extends Happenings<[value: T, isFirst: boolean]> {
  private readonly values = new Map<string, T>();
  /** Of which it is known that there is no value. */
  readonly silent = new Set<string>();

  value(id: string): T | undefined {
    return this.values.get(id);
  }

  /** The value of what somebody listens to: others may have another by now. It is not told again to who listens, too. */
  keptUp(id: string): T | undefined {
    return this.isWatched(id) ? this.values.get(id) : undefined;
  }

  set(id: string, value: T): void {
    const isFirst = this.silent.delete(id);
    this.values.set(id, value);
    this.tell(id, value, isFirst);
  }

  forget(): void {
    this.silent.clear();
    this.values.clear();
  }
}
