/** Tells whoever listens; live values stay outside React. */
export class Heard<T> {
  private readonly listeners = new Set<(value: T) => void>();
  last: T | null = null;

  tell(value: T): void {
    this.last = value;
    for (const listener of this.listeners) listener(value);
  }

  listen(listener: (value: T) => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }
}
