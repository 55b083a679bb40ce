/** How a surface of one size lies in a window of another: as large as fits, in the middle, nothing cut. */
export function fitInto(
  surface: { width: number; height: number },
  window: { width: number; height: number },
): { scale: number; left: number; top: number } {
  const scale = Math.min(window.width / surface.width, window.height / surface.height);
  return { scale, left: (window.width - surface.width * scale) / 2, top: (window.height - surface.height * scale) / 2 };
}
