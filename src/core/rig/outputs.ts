import type { RigDocument, RigOutput } from './document';

/** What leaves by an output: MIDI messages or OSC packets. */
export function takes(output: RigOutput): 'midi' | 'osc' {
  return output.kind === 'osc' ? 'osc' : 'midi';
}

export function outputsTaking(rig: RigDocument, body: 'midi' | 'osc'): RigOutput[] {
  return rig.outputs.filter((output) => takes(output) === body);
}

export function firstTaking(rig: RigDocument, body: 'midi' | 'osc'): RigOutput | undefined {
  return rig.outputs.find((output) => takes(output) === body);
}
