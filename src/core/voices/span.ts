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

/** Whether the voices of a stream glide: those of a pitch field do, and what is sung. */
export function streamGlides(rig: RigDocument, stream: string): boolean {
  if (spanOf(rig, stream) !== null) return true;
  const { input, source } = rig.streams.find(({ id }) => id === stream) ?? {};
  return source === 'sung' && rig.inputs.some(({ id, kind }) => id === input && kind === 'microphone');
}
