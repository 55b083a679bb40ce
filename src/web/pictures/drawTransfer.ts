import { rangeIn } from '../../core/shaping/rangeIn';
import type { Drawing } from './drawing';
import { fullness, type MessageSpec } from '../../core/messages';

/** Points of the drawn curve. */
const POINTS = 96;
/** What the picture leaves free at its left and right. */
export const PICTURE_EDGE_PX = 4;

/** Where a value and a level lie in a picture. */
export interface Axes {
  x(value: number): number;
  y(level: number): number;
}

/** The axes of a picture of this size: the signal's range across, what the message can hold up. */
export function transferAxes([lo, hi]: readonly [number, number], message: MessageSpec, { width, height }: { width: number; height: number }): Axes {
  return {
    x: (value) => PICTURE_EDGE_PX + rangeIn(value, lo, hi) * (width - 2 * PICTURE_EDGE_PX),
    y: (level) => height - PICTURE_EDGE_PX - fullness(message, level) * (height - 2 * PICTURE_EDGE_PX),
  };
}

/** The outline of a transfer picture and its curve, as a path that can be drawn again and again. */
export function transferPath([lo, hi]: readonly [number, number], transfer: (value: number) => number, { x, y }: Axes): Path2D {
  const path = new Path2D();
  for (let i = 0; i <= POINTS; i++) {
    const value = lo + (i / POINTS) * (hi - lo);
    path.lineTo(x(value), y(transfer(value)));
  }
  return path;
}

export function drawTransfer({ context, width, height, palette }: Drawing, path: Path2D): void {
  context.strokeStyle = palette.hairline;
  context.lineWidth = 1;
  context.strokeRect(0.5, 0.5, width - 1, height - 1);
  context.strokeStyle = palette.accent;
  context.lineWidth = 1.75;
  context.stroke(path);
}

/** The dot where the mapping is now; sulphur while its level is still on its way. */
export function drawDot({ context, palette }: Drawing, { x, y }: Axes, value: number, level: number, target: number): void {
  context.fillStyle = Math.abs(target - level) > 0.004 ? palette.alive : palette.ink;
  context.beginPath();
  context.arc(x(value), y(level), 4, 0, 2 * Math.PI);
  context.fill();
}
