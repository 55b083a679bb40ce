import type { RigDerived, RigMapping, RigSignal } from '../../core/rig/document';
import type { Palette } from '../theme/tokens';

/** A picture that the worker keeps up with by itself. */
export type Picture =
  /** The last seconds of a signal. */
  | { kind: 'trace'; signal: RigSignal | RigDerived }
  /** The trace of a signal and the shaping that a mapping makes of it. */
  | { kind: 'band'; mapping: RigMapping; signal: RigSignal | RigDerived }
  /** That shaping alone, large, with a trail. */
  | { kind: 'shaping'; mapping: RigMapping; signal: RigSignal | RigDerived }
  /** The signal before and the level after shaping, over the same time. */
  | { kind: 'beforeAfter'; mapping: RigMapping; signal: RigSignal | RigDerived }
  /** What leaves a mapping now, as a bar. */
  | { kind: 'meter'; mapping: RigMapping };

/** In CSS pixels, with the pixels of the display in each. */
export interface PictureSize {
  width: number;
  height: number;
  density: number;
}

/** From the page to the worker of its pictures; `key` names a picture. */
export type ToPictures =
  /** Where the live line is. */
  | { kind: 'line'; url: string }
  | { kind: 'add'; key: number; canvas: OffscreenCanvas }
  | { kind: 'show'; key: number; picture: Picture; palette: Palette }
  | { kind: 'size'; key: number; size: PictureSize }
  | { kind: 'remove'; key: number };
