import { LIMITS } from '../protocol/limits';
import type { HubLink, NamedFact } from './hubLink';

/**
 * Facts as JSON lines. A reader that does not keep up loses the newest facts and finds a line `{"dropped": n}` in their
 * place; it never makes the hub wait.
 */
export function monitorStream(link: HubLink, gone: AbortSignal): ReadableStream<Uint8Array> {
  const text = new TextEncoder();
  let stop: () => void = () => undefined;
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        let dropped = 0;
        let says = false;
        const write = (line: object) => controller.enqueue(text.encode(`${JSON.stringify(line)}\n`));
        const hasRoom = () => (controller.desiredSize ?? 0) > 0;
        const sayDropped = () => {
          if (dropped === 0) return;
          write({ dropped });
          dropped = 0;
        };
        const unlisten = link.listen({
          fact(fact: NamedFact) {
            if (!says) return;
            if (!hasRoom()) return void dropped++;
            sayDropped();
            write(fact);
          },
          dropped: (count) => says && (dropped += count),
          // The first line says that the stream is open, so that a script knows from when on it hears everything.
          listens() {
            if (!says) write({ watching: true });
            says = true;
          },
        });
        stop = unlisten;
        gone.addEventListener('abort', () => {
          unlisten();
          controller.close();
        });
      },
      cancel: () => stop(),
    },
    new CountQueuingStrategy({ highWaterMark: LIMITS.monitorBacklog }),
  );
}
