import { useCallback, useEffect, useRef, type RefObject } from 'react';
import { addCanvasPainter, type Painter } from '../../live/painter';
import { readyCanvas, type Drawing } from '../../pictures/drawing';
import { paletteOf } from '../../theme/tokens';
import { useRig } from '../shell/useRig';

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
      readyCanvas({ context, width, height }, window.devicePixelRatio);
      latest.current({ context, width, height, palette, nowMs });
    };
    const added = addCanvasPainter(canvas, paint, everyOther);
    painter.current = added;
    return () => added.remove();
  }, [palette, everyOther]);

  return { ref, wake };
}
