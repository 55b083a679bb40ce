import type { NamedFact } from '../../src/server/hubLink';

/** Reads GET /api/monitor and keeps every line. */
export class Monitor {
  readonly facts: NamedFact[] = [];
  private readonly stopper = new AbortController();

  static async open(url: string): Promise<Monitor> {
    const monitor = new Monitor();
    const response = await fetch(`${url}/api/monitor`, { signal: monitor.stopper.signal });
    await monitor.begin(response.body!);
    return monitor;
  }

  /** The messages that left, as `output bytes`. */
  get sent(): string[] {
    return this.facts.flatMap((fact) => (fact.direction === 'out' ? [`${fact.output} ${fact.bytes}`] : []));
  }

  close(): void {
    this.stopper.abort();
  }

  /** Resolves with the first line, which says that the stream listens. */
  private begin(body: ReadableStream<Uint8Array>): Promise<void> {
    return new Promise((resolve, reject) => {
      void (async () => {
        let rest = '';
        for await (const piece of body.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>)) {
          const lines = (rest + piece).split('\n');
          rest = lines.pop()!;
          for (const line of lines) {
            const parsed = JSON.parse(line) as NamedFact | { watching: true } | { dropped: number };
            if ('watching' in parsed) resolve();
            else if ('direction' in parsed) this.facts.push(parsed);
          }
        }
      })().catch((error: Error) => (error.name === 'AbortError' ? undefined : reject(error)));
    });
  }
}
