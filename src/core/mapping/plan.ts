import type { RigDocument, RigMapping } from '../rig/document';

/** One mapping, ready to run: references resolved to indices of the plan, absent steps filled in. */
export interface PlannedMapping {
  rig: RigMapping;
  signal: number;
  output: number;
  /** Ends of the range in, in the signal's unit. */
  inLo: number;
  inHi: number;
}

/** A rig compiled for the engine: everything by index, and per signal the flat list of what it drives. */
export interface Plan {
  signalIds: string[];
  signalRest: Float64Array;
  outputIds: string[];
  mappings: PlannedMapping[];
  /** The mappings of signal s are `drives[driveStart[s]]` up to, not including, `drives[driveStart[s + 1]]`. */
  driveStart: Uint32Array;
  drives: Uint32Array;
}

/** Compiles a document whose references have been checked. Throws on a dangling one: that is a programmer's mistake. */
export function compile(rig: RigDocument): Plan {
  const signalIndex = new Map(rig.signals.map((signal, i) => [signal.id, i]));
  const outputIndex = new Map(rig.outputs.map((output, i) => [output.id, i]));
  const mappings = rig.mappings.map((mapping): PlannedMapping => {
    const signal = known(signalIndex, mapping.signal);
    const { lo, hi } = mapping.shaping.rangeIn ?? { lo: rig.signals[signal]!.range[0], hi: rig.signals[signal]!.range[1] };
    return { rig: mapping, signal, output: known(outputIndex, mapping.output), inLo: lo, inHi: hi };
  });

  const driveStart = new Uint32Array(rig.signals.length + 1);
  for (const mapping of mappings) driveStart[mapping.signal + 1]!++;
  for (let s = 0; s < rig.signals.length; s++) driveStart[s + 1]! += driveStart[s]!;
  const next = driveStart.slice();
  const drives = new Uint32Array(mappings.length);
  mappings.forEach((mapping, m) => (drives[next[mapping.signal]!++] = m));

  return {
    signalIds: rig.signals.map((signal) => signal.id),
    signalRest: Float64Array.from(rig.signals, (signal) => signal.rest ?? signal.range[0]),
    outputIds: rig.outputs.map((output) => output.id),
    mappings,
    driveStart,
    drives,
  };
}

function known(index: Map<string, number>, id: string): number {
  const found = index.get(id);
  if (found === undefined) throw new Error(`compile needs checked references, "${id}" points nowhere`);
  return found;
}
