/** Something drawn from live values. */
interface Painted {
  draw: (nowMs: number) => void;
  /** Drawn on every frame until then, for pictures that move on by themselves. */
  untilMs: number;
  /** On which of two frames it is drawn; null for each. */
  turn: 0 | 1 | null;
}

const painted = new Set<Painted>();
let frame: number | null = null;
let frameCount = 0;
let turnsGiven = 0;
/**
 * Drawing takes at most about so long of a frame: what is left comes first in the next. Where there is more to draw than
 * that, pictures move less often, and the page still answers at once.
 */
const BUDGET_MS = 2;

export interface Painter {
  /** Draw on the next frame, and on every one for `forMs` more. */
  wake(forMs?: number): void;
  remove(): void;
}

/**
 * Draws in step with the display, at most once a frame however many values came, and only while something moves.
 * @param everyOther for pictures of which there are many: each is drawn on every second frame, half of them on each
 */
export function addPainter(draw: (nowMs: number) => void, everyOther = false): Painter {
  const turn = everyOther ? ((turnsGiven++ % 2) as 0 | 1) : null;
  const entry: Painted = { draw, untilMs: performance.now(), turn };
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

/** The same for a canvas, which is drawn anew when its size changes, too. */
export function addCanvasPainter(canvas: HTMLCanvasElement, draw: (nowMs: number) => void, everyOther = false): Painter {
  const painter = addPainter(draw, everyOther);
  const observer = new ResizeObserver(() => painter.wake());
  observer.observe(canvas);
  return {
    wake: painter.wake,
    remove() {
      observer.disconnect();
      painter.remove();
    },
  };
}

function schedule(): void {
  frame ??= requestAnimationFrame(paint);
}

function paint(nowMs: number): void {
  frame = null;
  const endMs = performance.now() + BUDGET_MS;
  frameCount++;
  for (const entry of [...painted]) {
    if (entry.turn !== null && entry.turn !== frameCount % 2) continue;
    // Taken out and put behind the others, so that each has its turn.
    if (!painted.delete(entry)) continue;
    entry.draw(nowMs);
    if (entry.untilMs > nowMs) painted.add(entry);
    if (performance.now() > endMs) break;
  }
  if (painted.size > 0) schedule();
}
