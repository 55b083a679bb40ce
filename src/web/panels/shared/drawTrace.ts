import type { Drawing } from './useCanvas';
import { TRACE_MS, type Trace } from './trace';

/**
 * Draws a trace as steps that lead up to now at the right edge.
 * @param toUnit lays a value on [0, 1], the height of the picture
 */
export function drawTrace({ context, width, height, nowMs }: Drawing, trace: Trace, toUnit: (value: number) => number, colour: string): void {
  const y = (value: number) => 2 + (1 - toUnit(value)) * (height - 4);
  context.beginPath();
  let last: number | null = null;
  for (const [timeMs, value] of trace.since(nowMs)) {
    const x = Math.max(0, width * (1 - (nowMs - timeMs) / TRACE_MS));
    if (last === null) context.moveTo(x, y(value));
    else {
      context.lineTo(x, last);
      context.lineTo(x, y(value));
    }
    last = y(value);
  }
  if (last === null) return;
  context.lineTo(width, last);
  context.strokeStyle = colour;
  context.lineWidth = 1.5;
  context.stroke();
}

/** Whether something moved in the last moment, so that it is drawn as alive. */
export function isAlive(lastChangeMs: number, nowMs: number): boolean {
  return nowMs - lastChangeMs < 400;
}
