import type { RigDocument } from '../../../core/rig/document';
import { OPENING, type OutputsState } from '../../../protocol/live';

/** The outputs of a rig that nothing can leave by now, by their names, each with why. One that is just being opened is not missing. */
export function missingOutputs(rig: RigDocument, state: OutputsState | null): { name: string; why: string; missed: number }[] {
  return (state?.outputs ?? []).flatMap(({ id, away, missed }) => {
    const output = rig.outputs.find((candidate) => candidate.id === id);
    return output && away !== null && away !== OPENING ? [{ name: output.name, why: away, missed }] : [];
  });
}
