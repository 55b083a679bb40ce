import { ledgerRows } from '../core/ledger/rows';
import { problemOf } from '../protocol/check';
import type { RigPreview } from '../protocol/rigPreview';
import type { CheckRig } from './rigChecks';

/** What a document holds. Throws a `ProblemError` with every problem of a bad one. */
export async function previewRig(candidate: unknown, check: CheckRig): Promise<RigPreview> {
  const checked = await check(candidate);
  if (!checked.ok) throw problemOf(checked.problems);
  const rig = checked.value;
  const { inputs, signals, derived, mappings, surfaces, outputs, scenes } = rig;
  return {
    name: rig.name,
    counts: { inputs: inputs.length, signals: signals.length + derived.length, mappings: mappings.length + rig.voiceMappings.length, surfaces: surfaces.length, outputs: outputs.length, scenes: scenes.length },
    clashes: ledgerRows(rig).flatMap(({ state, mappingName, output, address, remark }) => (state === 'clash' ? [`${mappingName} (${output}, ${address}) ${remark}`] : [])),
    feeds: inputs.flatMap((input) => ('device' in input && input.device && input.kind !== undefined ? [{ name: input.name, kind: input.kind, ...input.device }] : [])),
  };
}
