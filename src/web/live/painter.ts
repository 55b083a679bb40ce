/** Something drawn from live values. */
interface Painted {
  draw: (nowMs: number) => void;
  /** Drawn on every frame until then, for pictures that move on by themselves. */
  untilMs: number;
}

const painted = new Set<Painted>();
let frame: number | null = null;

export interface Painter {
  /** Draw on the next frame, and on every one for `forMs` more. */
  wake(forMs?: number): void;
  remove(): void;
}

/** Draws in step with the display, once a frame however many values came, and only while something moves. */
export function addPainter(draw: (nowMs: number) => void): Painter {
  const entry: Painted = { draw, untilMs: performance.now() };
  painted.add(entry);
  schedule();
  return {
    wake(forMs = 0) {
      entry.untilMs = Math.max(entry.untilMs, performance.now() + forMs);
      painted.add(entry);
      schedule();
    },
    remove() {
      painted.delete(entry);
    },
  };
}

function schedule(): void {
  frame ??= requestAnimationFrame(paint);
}

function paint(nowMs: number): void {
  frame = null;
  for (const entry of painted) {
    entry.draw(nowMs);
    if (entry.untilMs <= nowMs) painted.delete(entry);
  }
  if (painted.size > 0) schedule();
}
