import { addOutput } from '../outputs/addOutput';
import { makeSurface } from '../surface/starters';
import { Workbench } from '../surface/workbench';
import { RIG_FORMAT, RIG_VERSION, type RigDocument } from './document';

export const RIG_STARTERS = ['empty', 'tablet', 'keys', 'plugged in'] as const;
export type RigStarter = (typeof RIG_STARTERS)[number];

const USUAL_TEMPO_BPM = 120;
/** A tablet that lies; see `surface/starters`. */
const TABLET = { width: 1180, height: 820 };

/**
 * A new rig: empty; or with one stand-in to practise with and, for it, the strips of a tablet, keys and dials of one, or
 * nothing yet, for what is plugged in brings ready mappings of its own.
 */
export function newRig(name: string, starter: RigStarter): RigDocument {
  const empty: RigDocument = { format: RIG_FORMAT, version: RIG_VERSION, name, tempoBpm: USUAL_TEMPO_BPM, inputs: [], signals: [], derived: [], mappings: [], outputs: [], receivers: [], surfaces: [], scenes: [] };
  if (starter === 'empty') return empty;
  const bench = new Workbench(empty);
  bench.put(...addOutput(bench.rig, { kind: 'standIn' }, 'Practice').changes);
  if (starter === 'tablet') makeSurface(bench, 'Strips', TABLET, 'mixer strips');
  if (starter === 'keys') makeSurface(bench, 'Keys', TABLET, 'keys');
  return bench.rig;
}
