import type { Frame } from '../rig/document';

/** Lengths in CSS pixels of the surface. No control is smaller than a fingertip needs at the least. */
export const LEAST_SIDE = 24;

export interface Size {
  width: number;
  height: number;
}

/** A line along which something lies, from the one edge of the surface to the other. */
export interface Guide {
  axis: 'x' | 'y';
  at: number;
}

const right = ({ x, width }: Frame) => x + width;
const bottom = ({ y, height }: Frame) => y + height;

/** The smallest frame around all of them; null around none. */
export function bounds(frames: readonly Frame[]): Frame | null {
  if (frames.length === 0) return null;
  const x = Math.min(...frames.map((frame) => frame.x));
  const y = Math.min(...frames.map((frame) => frame.y));
  return { x, y, width: Math.max(...frames.map(right)) - x, height: Math.max(...frames.map(bottom)) - y };
}

/** Moved, but not out of the surface: as far as it goes. */
export function moveWithin(frames: readonly Frame[], dx: number, dy: number, surface: Size): Frame[] {
  const around = bounds(frames);
  if (!around) return [];
  const within = (move: number, from: number, length: number, whole: number) => Math.max(-from, Math.min(move, Math.max(-from, whole - from - length)));
  const x = within(dx, around.x, around.width, surface.width);
  const y = within(dy, around.y, around.height, surface.height);
  return frames.map((frame) => ({ ...frame, x: frame.x + x, y: frame.y + y }));
}

/** A handle of a frame: the edges that it moves. */
export type Handle = { x: -1 | 0 | 1; y: -1 | 0 | 1 };

/** A frame with the edges of a handle moved, within the surface and no smaller than the least. */
export function resize(frame: Frame, { x, y }: Handle, dx: number, dy: number, surface: Size): Frame {
  const along = (from: number, length: number, side: -1 | 0 | 1, move: number, whole: number): [number, number] => {
    if (side === 0) return [from, length];
    if (side > 0) return [from, Math.min(Math.max(LEAST_SIDE, length + move), Math.max(LEAST_SIDE, whole - from))];
    const start = Math.max(0, Math.min(from + move, from + length - LEAST_SIDE));
    return [start, from + length - start];
  };
  const [left, width] = along(frame.x, frame.width, x, dx, surface.width);
  const [top, height] = along(frame.y, frame.height, y, dy, surface.height);
  return { x: left, y: top, width, height };
}

/** The lines that things may snap to: edges and middles of the others, and those of the surface. */
export function guidesOf(others: readonly Frame[], surface: Size): Guide[] {
  const xs = [0, surface.width / 2, surface.width, ...others.flatMap((frame) => [frame.x, frame.x + frame.width / 2, right(frame)])];
  const ys = [0, surface.height / 2, surface.height, ...others.flatMap((frame) => [frame.y, frame.y + frame.height / 2, bottom(frame)])];
  return [...new Set(xs)].map((at): Guide => ({ axis: 'x', at })).concat([...new Set(ys)].map((at): Guide => ({ axis: 'y', at })));
}

/**
 * How much more a frame must go so that an edge or its middle lies on the nearest guide, where one is within `reach`, and
 * the guides that it then lies on.
 * @param edges which of its lines may snap along each axis; sizing by a handle snaps the edges that move alone
 */
export function snap(frame: Frame, guides: readonly Guide[], reach: number, edges: { x: readonly number[]; y: readonly number[] } = WHOLE): { dx: number; dy: number; on: Guide[] } {
  const along = (axis: 'x' | 'y', from: number, length: number, shares: readonly number[]) => {
    let best: { by: number; guide: Guide } | null = null;
    for (const guide of guides) {
      if (guide.axis !== axis) continue;
      for (const share of shares) {
        const by = guide.at - (from + share * length);
        if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, guide };
      }
    }
    return best;
  };
  const x = along('x', frame.x, frame.width, edges.x);
  const y = along('y', frame.y, frame.height, edges.y);
  return { dx: x?.by ?? 0, dy: y?.by ?? 0, on: [x, y].flatMap((found) => (found ? [found.guide] : [])) };
}

const WHOLE = { x: [0, 0.5, 1], y: [0, 0.5, 1] } as const;

export const ALIGNMENTS = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/** All frames with one edge or middle in line, that of the frame around them. */
export function align(frames: readonly Frame[], how: Alignment): Frame[] {
  const around = bounds(frames);
  if (!around) return [];
  return frames.map((frame) => {
    switch (how) {
      case 'left':
        return { ...frame, x: around.x };
      case 'centre':
        return { ...frame, x: Math.round(around.x + (around.width - frame.width) / 2) };
      case 'right':
        return { ...frame, x: right(around) - frame.width };
      case 'top':
        return { ...frame, y: around.y };
      case 'middle':
        return { ...frame, y: Math.round(around.y + (around.height - frame.height) / 2) };
      case 'bottom':
        return { ...frame, y: bottom(around) - frame.height };
      default:
        return how satisfies never;
    }
  });
}

/**
 * Frames with even gaps between them, within the surface; the outermost two stay, unless one in between reaches beyond them.
 * Order in the list is kept.
 */
export function distribute(frames: readonly Frame[], axis: 'x' | 'y', surface: Size): Frame[] {
  if (frames.length < 3) return [...frames];
  const length = axis === 'x' ? 'width' : 'height';
  const order = frames.map((_, i) => i).sort((a, b) => frames[a]![axis] - frames[b]![axis]);
  const first = frames[order[0]!]!;
  const last = frames[order.at(-1)!]!;
  const whole = last[axis] + last[length] - first[axis];
  const gap = (whole - frames.reduce((sum, frame) => sum + frame[length], 0)) / (frames.length - 1);
  const after = [...frames];
  let at = first[axis];
  for (const i of order) {
    after[i] = { ...frames[i]!, [axis]: Math.max(0, Math.min(Math.round(at), surface[length] - frames[i]![length])) };
    at += frames[i]![length] + gap;
  }
  return after;
}

/** Frames of the size of the first, from where each stands, within the surface. */
export function sameSize(frames: readonly Frame[], surface: Size): Frame[] {
  const [first] = frames;
  if (!first) return [];
  return frames.map((frame) => ({
    ...frame,
    width: first.width,
    height: first.height,
    x: Math.max(0, Math.min(frame.x, surface.width - first.width)),
    y: Math.max(0, Math.min(frame.y, surface.height - first.height)),
  }));
}

/** A frame made as small and put so that it lies within a surface. */
export function keepInside(frame: Frame, surface: Size): Frame {
  const width = Math.min(frame.width, surface.width);
  const height = Math.min(frame.height, surface.height);
  return { width, height, x: Math.max(0, Math.min(frame.x, surface.width - width)), y: Math.max(0, Math.min(frame.y, surface.height - height)) };
}

/** Where copies go: `across` by `down` cells with gaps between, row by row, the first cell being what there is. */
export function repeatOffsets(around: Frame, across: number, down: number, gapX: number, gapY: number): { dx: number; dy: number }[] {
  return Array.from({ length: across * down }, (_, i) => ({ dx: (i % across) * (around.width + gapX), dy: Math.floor(i / across) * (around.height + gapY) })).slice(1);
}

/** Whether a frame lies in another, whole or in part. */
export function touches(one: Frame, other: Frame): boolean {
  return one.x < right(other) && other.x < right(one) && one.y < bottom(other) && other.y < bottom(one);
}
