import type { Drawing } from './drawing';
import { TRACE_MS, type Trace } from './trace';

/** A value that stood longer than this is drawn as a step, one that came sooner as a line: a stream needs half the points. */
const STOOD_MS = 60;

/**
 * Draws a trace that leads up to now at the right edge.
 * @param toUnit lays a value on [0, 1], the height of the picture
 */
export function drawTrace({ context, width, height, nowMs }: Drawing, trace: Trace, toUnit: (value: number) => number, colour: string): void {
  const y = (value: number) => 2 + (1 - toUnit(value)) * (height - 4);
  context.beginPath();
  let last: number | null = null;
  let lastMs = 0;
  for (const [timeMs, value] of trace.since(nowMs)) {
    const x = Math.max(0, width * (1 - (nowMs - timeMs) / TRACE_MS));
    if (last === null) context.moveTo(x, y(value));
    else {
      if (timeMs - lastMs > STOOD_MS) context.lineTo(x, last);
      context.lineTo(x, y(value));
    }
    last = y(value);
    lastMs = timeMs;
  }
  if (last === null) return;
  context.lineTo(width, last);
  context.strokeStyle = colour;
  context.lineWidth = 1.5;
  context.stroke();
}

/** The dot at the right end of a trace: sulphur and large while the value moves. */
export function drawTraceEnd({ context, width, height, palette }: Drawing, trace: Trace, toUnit: (value: number) => number, alive: boolean): void {
  const { latest } = trace;
  if (latest === undefined) return;
  context.fillStyle = alive ? palette.alive : palette.quiet;
  context.beginPath();
  context.arc(width - 5, 2 + (1 - toUnit(latest)) * (height - 4), alive ? 4.5 : 3, 0, 2 * Math.PI);
  context.fill();
}

/** Whether something moved in the last moment, so that it is drawn as alive. */
export function isAlive(lastChangeMs: number, nowMs: number): boolean {
  return nowMs - lastChangeMs < 400;
}
