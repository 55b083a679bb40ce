import { addOutput } from '../outputs/addOutput';
import type { Frame, RigControl, RigSurface } from '../rig/document';
import { outputsTaking } from '../rig/outputs';
import { controlIds, controlsAt, putControls, withSignals } from '../surface/make';
import { plainControl } from '../surface/controlKinds';
import type { Workbench } from '../surface/workbench';
import { freeId } from '../rig/naming';
import { addMember } from './addMember';
import { freshPattern } from './kinds/pattern';
import type { MemberPart } from './parts';
import { DEGREES, type HarmonicMode } from './theory/degrees';
import { romanNumeral } from './theory/names';
import type { Quality } from './theory/qualities';

const KINDS: [label: string, quality: Quality][] = [['7', '7'], ['maj7', 'maj7'], ['m7', 'm7'], ['sus4', 'sus4'], ['sus2', 'sus2'], ['dim', 'dim7'], ['9', '9']];
/** The key and the names of a band. */
export interface Band {
  tonic: number;
  mode: HarmonicMode;
  names: Record<'chord' | 'strum' | 'bass' | 'pattern' | 'arpeggio', string>;
  /** By kind of member: the output that it goes to; absent: as many as there are, one after another. */
  outputs?: Record<'chord' | 'strum' | 'bass' | 'pattern' | 'arpeggio', string>;
}

const PLAIN_BAND: Band = { tonic: 0, mode: 'major', names: { chord: 'Chords', strum: 'Strum', bass: 'Bass', pattern: 'Drums', arpeggio: 'Arpeggio' } };
const STRINGS = 6;
/** The band needs so many receivers; a rig that has fewer gets stand-ins. */
const RECEIVERS = ['Chords', 'Strings', 'Low strings', 'Drums'];

/**
 * A band on one surface: pads for the degrees of a key, a row that makes other chords of them while it is held, a strip to strum, and
 * switches for bass, drums and arpeggio. It starts with the first chord.
 * @param surface of the bench, whose first page takes the controls
 * @param place where a control lies, of a grid of so many columns and rows
 */
export function makeChordBoard(bench: Workbench, surface: string, place: (at: [column: number, row: number, across: number, down: number], columns: number, rows: number) => Frame, lying: boolean, { tonic, mode, names, outputs }: Band = PLAIN_BAND): void {
  const [columns, rows] = lying ? [8, 8] : [7, 14];
  const gates = Array.from({ length: DEGREES }, (_, i) => romanNumeral(mode, i + 1)).map((label, i) => put(bench, surface, 'push', label, place(lying ? [i, 2, 1, 4] : [i, 3, 1, 4], columns, rows)));
  const kinds = KINDS.map(([label], i) => put(bench, surface, 'push', label, place(lying ? [i, 0, 1, 2] : [i, 1, 1, 2], columns, rows)));
  const strip = put(bench, surface, 'fader', 'Strum', place(lying ? [7, 0, 1, 8] : [0, 7, 7, 4], columns, rows));
  const toggles = [names.bass, names.pattern, names.arpeggio].map((label, i) => put(bench, surface, 'toggle', label, place(lying ? [[0, 2, 5][i]!, 6, [2, 3, 2][i]!, 2] : [[0, 2, 5][i]!, 11, [2, 3, 2][i]!, 3], columns, rows)));
  const free = outputs ? [] : outputsFor(bench);
  const add = (part: MemberPart & { kind: keyof Band['names'] }, receiver: number) => {
    const { changes, id } = addMember(bench.rig, names[part.kind], part, outputs?.[part.kind] ?? free[receiver]!);
    bench.put(...changes);
    return id;
  };
  const gate = (control: RigControl) => Object.values(control.signals)[0]!;
  const chord = add(
    { kind: 'chord', tonic, mode, from: { by: 'gates', gates: gates.map((control, i) => ({ gate: gate(control), degree: i + 1 })) }, tones: 3, qualities: kinds.map((control, i) => ({ gate: gate(control), quality: KINDS[i]![1] })), inversion: 0, leads: true, spread: 'close', bass: 'none', low: 55, stays: 'for others' },
    0,
  );
  add({ kind: 'strum', listens: chord, across: strip.signals.value!, touch: strip.signals.touch!, strings: STRINGS, directions: 'both', ringMs: 2500, dampedBy: 'chord', fullMs: 150 }, 1);
  const [bass, pattern, arpeggio] = toggles.map(gate) as [string, string, string];
  add({ kind: 'bass', listens: chord, way: 'fifth', tones: ['root', 'rest', 'fifth', 'rest'], low: 36, everyBeats: 1, length: 0.8, strike: 0.8, while: bass }, 2);
  add({ kind: 'pattern', everyBeats: 0.25, patterns: [freshPattern('A')], present: 0, while: pattern }, 3);
  add({ kind: 'arpeggio', listens: chord, order: 'both', octaves: 2, everyBeats: 0.25, length: 0.6, accents: [1, 0.6, 0.8, 0.6], latch: false, while: arpeggio }, 1);
}

function put(bench: Workbench, surfaceId: string, kind: 'push' | 'fader' | 'toggle', label: string, frame: Frame): RigControl {
  const surface = bench.surface(surfaceId);
  const control = withSignals(bench, surface, plainControl(kind, freeId(label, controlIds(surface)), label, frame));
  const now: RigSurface = bench.surface(surfaceId);
  const spot = { surface: surfaceId, page: now.pages[0]!.id };
  bench.put({ list: 'surfaces', id: surfaceId, to: putControls(now, spot, [...controlsAt(now, spot), control]) });
  return control;
}

/** The outputs of the rig that take MIDI, and stand-ins for as many as are missing. */
function outputsFor(bench: Workbench): string[] {
  const known = outputsTaking(bench.rig, 'midi').map(({ id }) => id);
  for (const name of RECEIVERS.slice(known.length)) {
    const { id, changes } = addOutput(bench.rig, { kind: 'standIn' }, name);
    bench.put(...changes);
    known.push(id);
  }
  return known.slice(0, RECEIVERS.length);
}
