import { RIG_VERSION } from '../../core/rig/document';
import type { Checked } from '../check';
import { withEnsemble } from './upgrades/ensemble';
import { withVoices } from './upgrades/voices';

/** Turns a document of one version into the next; `upgrades[0]` makes version 2 of version 1. */
export type RigUpgrade = (document: Record<string, unknown>) => Record<string, unknown>;

export const upgrades: readonly RigUpgrade[] = [withVoices, withEnsemble];

/**
 * Brings a document of an older version up to the present one, step by step. One of a newer version is refused; what has
 * no version at all is left to the schema to complain about.
 */
export function upgradeRig(candidate: unknown, steps: readonly RigUpgrade[] = upgrades, present: number = RIG_VERSION): Checked<unknown> {
  if (typeof candidate !== 'object' || candidate === null || !('version' in candidate)) return { ok: true, value: candidate };
  const { version } = candidate;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) return { ok: true, value: candidate };
  if (version > present) {
    const message = `version: expected ${present} or an earlier one, found ${version}: this rig was made by a newer Pumice.`;
    return { ok: false, problems: [{ code: 'invalid', field: 'version', message }] };
  }
  let document = candidate as Record<string, unknown>;
  for (let from = version; from < present; from++) document = { ...steps[from - 1]!(document), version: from + 1 };
  return { ok: true, value: document };
}
