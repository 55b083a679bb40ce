import type { CSSProperties } from 'react';
import type { Frame } from '../../../core/rig/document';

/** A frame in surface pixels as a place on the page. */
export function frameStyle({ x, y, width, height }: Frame, scale: number): CSSProperties {
  return { left: x * scale, top: y * scale, width: width * scale, height: height * scale };
}
