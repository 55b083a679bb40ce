import { addMember } from '../ensemble/addMember';
import { STREAM_FIRST } from '../ensemble/kinds/stream';
import type { StreamPart } from '../ensemble/parts';
import type { HandsInput } from '../inputs/kinds/hands';
import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';
import { handKey, THERE } from './handSources';
import { SIDES, type Side } from './landmarks';

/** The hands that a rig has: by input and side. */
export function handsOf(rig: RigDocument): { input: HandsInput; side: Side }[] {
  return rig.inputs.flatMap((input) => (input.kind === 'hands' ? SIDES.map((side) => ({ input, side })) : []));
}

interface HandNotes {
  input: string;
  side: Side;
  name?: string;
  output?: string;
  set?: Partial<StreamPart>;
}

/** A member that plays notes from one hand at a tempo: its height is the pitch; with the hand the notes are gone. */
export function addHandNotes(rig: RigDocument, { input, side, name = side === 'left' ? 'Left hand' : 'Right hand', output, set }: HandNotes): { changes: Change[]; id: string } {
  const signal = (what: string) => rig.signals.find((one) => one.input === input && one.source === handKey(side, what))?.id;
  const there = signal(THERE);
  return addMember(rig, name, { ...STREAM_FIRST, pitch: signal('palm y') ?? '', ...(there !== undefined && { while: there }), ...set }, output);
}
