/** Listeners by key; the function that `add` gives back takes its listener away again. */
export class Subscribers<Key, Args extends unknown[]> {
  private readonly byKey = new Map<Key, Set<(...args: Args) => void>>();

  add(key: Key, listener: (...args: Args) => void): () => void {
    const listeners = this.byKey.get(key) ?? new Set();
    this.byKey.set(key, listeners.add(listener));
    return () => {
      listeners.delete(listener);
      if (listeners.size === 0 && this.byKey.get(key) === listeners) this.byKey.delete(key);
    };
  }

  tell(key: Key, ...args: Args): void {
    for (const listener of this.byKey.get(key) ?? []) listener(...args);
  }

  keys(): Key[] {
    return [...this.byKey.keys()];
  }

  has(key: Key): boolean {
    return this.byKey.has(key);
  }
}
