import { addOutput } from '../outputs/addOutput';
import { makeSurface } from '../surface/starters';
import { Workbench } from '../surface/workbench';
import type { MidiThru } from '../inputs/kinds/midi';
import { RIG_FORMAT, RIG_VERSION, type RigDocument } from './document';

export const RIG_STARTERS = ['empty', 'tablet', 'keys', 'split', 'chords', 'plugged in'] as const;
export type RigStarter = (typeof RIG_STARTERS)[number];

const USUAL_TEMPO_BPM = 120;
const MIDDLE_C = 60;
/** A tablet that lies; see `surface/starters`. */
const TABLET = { width: 1180, height: 820 };

/**
 * A new rig: empty; or with one stand-in to practise with and, for it, the strips of a tablet, keys and dials of one, or
 * nothing yet, for what is plugged in brings ready mappings of its own; with a band under pads for chords; or with two, one for each side of the first MIDI keyboard that
 * is plugged in.
 */
export function newRig(name: string, starter: RigStarter): RigDocument {
  const empty: RigDocument = { format: RIG_FORMAT, version: RIG_VERSION, name, tempoBpm: USUAL_TEMPO_BPM, meter: [4, 4], inputs: [], signals: [], derived: [], mappings: [], streams: [], members: [], voiceMappings: [], scales: [], outputs: [], receivers: [], surfaces: [], scenes: [] };
  if (starter === 'empty') return empty;
  const bench = new Workbench(empty);
  if (starter === 'split') {
    const outputs = ['Upper', 'Lower'].map((side) => {
      const { id, changes } = addOutput(bench.rig, { kind: 'standIn' }, side);
      bench.put(...changes);
      return id;
    });
    const thru: MidiThru = { output: outputs[0]!, channels: Array.from({ length: 16 }, (_, i) => i + 1), kinds: ['notes', 'controllers', 'bend', 'pressure'], split: { below: MIDDLE_C, output: outputs[1]! } };
    bench.put({ list: 'inputs', id: 'keyboard', to: { id: 'keyboard', name: 'Keyboard', kind: 'midi', thru } });
    return bench.rig;
  }
  if (starter === 'chords') {
    makeSurface(bench, 'Chords', TABLET, 'chords');
    return { ...bench.rig, startsBy: 'first note' };
  }
  bench.put(...addOutput(bench.rig, { kind: 'standIn' }, 'Practice').changes);
  if (starter === 'tablet') makeSurface(bench, 'Strips', TABLET, 'mixer strips');
  if (starter === 'keys') makeSurface(bench, 'Keys', TABLET, 'keys');
  return bench.rig;
}
