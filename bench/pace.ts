/** Page time; the same clock in every process of this machine. */
export const nowMs = () => performance.timeOrigin + performance.now();

export const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Calls `tick` at a rate for a time, catching up where the event loop was late. */
export async function atRate(rateHz: number, forMs: number, tick: (i: number) => void): Promise<void> {
  const startMs = nowMs();
  for (let i = 0; i < (forMs / 1000) * rateHz; i++) {
    const waitMs = startMs + (i * 1000) / rateHz - nowMs();
    if (waitMs > 1) await sleep(waitMs);
    tick(i);
  }
}
