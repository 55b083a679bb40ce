import { useCallback, useEffect, useRef, type RefObject } from 'react';
import { addPainter, type Painter } from '../../live/painter';
import { paletteOf, type Palette } from '../../theme/tokens';
import { useRig } from '../shell/useRig';

export interface Drawing {
  context: CanvasRenderingContext2D;
  width: number;
  height: number;
  palette: Palette;
  nowMs: number;
}

/**
 * A canvas as sharp as its display, drawn when woken; lengths are CSS pixels.
 * @param everyOther drawn on every second frame, for pictures of which there are many
 */
export function useCanvas(
  draw: (drawing: Drawing) => void,
  everyOther = false,
): {
  ref: RefObject<HTMLCanvasElement | null>;
  wake: (forMs?: number) => void;
} {
  const ref = useRef<HTMLCanvasElement>(null);
  const painter = useRef<Painter>(undefined);
  const latest = useRef(draw);
  const palette = paletteOf(useRig().stage);
  const wake = useCallback((forMs?: number) => painter.current?.wake(forMs), []);

  useEffect(() => {
    latest.current = draw;
    painter.current?.wake();
  });

  useEffect(() => {
    const canvas = ref.current!;
    const context = canvas.getContext('2d')!;
    const paint = (nowMs: number) => {
      const { clientWidth: width, clientHeight: height } = canvas;
      const density = window.devicePixelRatio;
      if (canvas.width !== Math.round(width * density) || canvas.height !== Math.round(height * density)) {
        canvas.width = Math.round(width * density);
        canvas.height = Math.round(height * density);
      }
      context.setTransform(density, 0, 0, density, 0, 0);
      context.clearRect(0, 0, width, height);
      latest.current({ context, width, height, palette, nowMs });
    };
    const added = addPainter(paint, everyOther);
    painter.current = added;
    const observer = new ResizeObserver(() => added.wake());
    observer.observe(canvas);
    return () => {
      observer.disconnect();
      added.remove();
    };
  }, [palette, everyOther]);

  return { ref, wake };
}
