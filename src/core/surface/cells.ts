import type { ControlOf, Frame } from '../rig/document';
import { keysOf } from './controlKinds';

/** Lanes side by side, all of one width. */
export function laneFrame({ x, y, width, height }: Frame, count: number, cell: number): Frame {
  return { x: x + (cell * width) / count, y, width: width / count, height };
}

/** Pads in rows from the upper left. */
export function padFrame({ x, y, width, height }: Frame, { columns, rows }: { columns: number; rows: number }, cell: number): Frame {
  const across = width / columns;
  const down = height / rows;
  return { x: x + (cell % columns) * across, y: y + Math.floor(cell / columns) * down, width: across, height: down };
}

export interface Key {
  cell: number;
  note: number;
  black: boolean;
  frame: Frame;
}

const BLACK = new Set([1, 3, 6, 8, 10]);
/** A black key is so much of a white one, across and down. */
const BLACK_WIDTH = 0.6;
const BLACK_HEIGHT = 0.62;

/**
 * The keys of a keyboard: laid out as on a piano where it has all notes, white ones side by side and black ones between;
 * with a scale all alike, side by side.
 */
export function keyFrames(control: ControlOf<'keys'>): Key[] {
  const { frame, scale } = control;
  const notes = keysOf(control);
  if (scale) return notes.map((note, cell) => ({ cell, note, black: false, frame: laneFrame(frame, notes.length, cell) }));
  const whites = notes.filter((note) => !BLACK.has(note % 12)).length || 1;
  const wide = frame.width / whites;
  let white = 0;
  return notes.map((note, cell) => {
    const black = BLACK.has(note % 12);
    const left = frame.x + white * wide;
    if (!black) white++;
    // At the ends half of a black key would hang over the edge.
    const x = black ? Math.min(Math.max(frame.x, left - (wide * BLACK_WIDTH) / 2), frame.x + frame.width - wide * BLACK_WIDTH) : left;
    return { cell, note, black, frame: { x, y: frame.y, width: black ? wide * BLACK_WIDTH : wide, height: black ? frame.height * BLACK_HEIGHT : frame.height } };
  });
}
