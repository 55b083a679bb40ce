const FREE = 0;
const TAKEN = 1;
/** Whoever opens for so long does not hold up the others any longer. */
const PATIENCE_MS = 1000;

/** A turn that the threads of a process take one after another; they share its memory. */
export const freshTurn = (): Int32Array => new Int32Array(new SharedArrayBuffer(4));

/**
 * Does something that no two threads shall do at once: the libraries of MIDI systems were not made for that (JACK's closes the
 * socket of another client then). One that takes long is not waited for for ever.
 */
export function inTurn(turn: Int32Array, work: () => void): void {
  const untilMs = performance.now() + PATIENCE_MS;
  let mine = false;
  while (!(mine = Atomics.compareExchange(turn, 0, FREE, TAKEN) === FREE)) {
    const leftMs = untilMs - performance.now();
    if (leftMs <= 0) break;
    Atomics.wait(turn, 0, TAKEN, leftMs);
  }
  try {
    work();
  } finally {
    if (mine) {
      Atomics.store(turn, 0, FREE);
      Atomics.notify(turn, 0, 1);
    }
  }
}
