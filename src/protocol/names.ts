import type { Names } from './live';

/** One kind of names, as the end that was told of them keeps them. */
export class KnownNames {
  private readonly ids: (string | undefined)[] = [];
  private readonly numbers = new Map<string, number>();

  learn(numbered: Names['signals']): void {
    for (const [number, id] of numbered) {
      const before = this.ids[number];
      if (before !== undefined && this.numbers.get(before) === number) this.numbers.delete(before);
      this.ids[number] = id;
      this.numbers.set(id, number);
    }
  }

  forget(): void {
    this.ids.length = 0;
    this.numbers.clear();
  }

  idOf(number: number): string | undefined {
    return this.ids[number];
  }

  numberOf(id: string): number | undefined {
    return this.numbers.get(id);
  }

  get size(): number {
    return this.numbers.size;
  }
}

/** The names that a page or the web process was told. */
export class NamesBook {
  readonly signals = new KnownNames();
  readonly mappings = new KnownNames();
  readonly streams = new KnownNames();
  readonly outputs = new KnownNames();

  learn({ signals, mappings, streams, outputs }: Names): void {
    this.signals.learn(signals);
    this.mappings.learn(mappings);
    this.streams.learn(streams);
    this.outputs.learn(outputs);
  }

  /** Another hub gives other numbers. */
  forget(): void {
    for (const names of [this.signals, this.mappings, this.streams, this.outputs]) names.forget();
  }
}
