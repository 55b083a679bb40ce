import type { Palette } from '../theme/tokens';

/** What a picture is drawn on; lengths are CSS pixels. */
export interface Drawing {
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;
  width: number;
  height: number;
  palette: Palette;
  nowMs: number;
}

/** Makes a canvas as sharp as its display, clears it, and counts in CSS pixels from there. */
export function readyCanvas({ context, width, height }: Pick<Drawing, 'context' | 'width' | 'height'>, density: number): void {
  const { canvas } = context;
  if (canvas.width !== Math.round(width * density) || canvas.height !== Math.round(height * density)) {
    canvas.width = Math.round(width * density);
    canvas.height = Math.round(height * density);
  }
  context.setTransform(density, 0, 0, density, 0, 0);
  context.clearRect(0, 0, width, height);
}
