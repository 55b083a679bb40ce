import type { RigDocument } from '../rig/document';
import { flatControls, streamOf } from '../surface/controlKinds';

/** How far a finger can glide on the control that plays a stream, in semitones; null where no pitch field does. */
export function spanOf(rig: RigDocument, stream: string): number | null {
  const controls = rig.surfaces.flatMap(({ pages }) => pages.flatMap((page) => flatControls(page.controls)));
  const control = controls.find((candidate) => streamOf(candidate) === stream);
  if (control?.kind !== 'pitchField') return null;
  const { span, rows, interval, across } = control;
  return across ? span + Math.abs(interval) * (rows - 1) : span;
}

/** Whether the voices of a stream glide: those of a pitch field do. */
export const streamGlides = (rig: RigDocument, stream: string): boolean => spanOf(rig, stream) !== null;
