import type { RigDocument } from './document';
import { outputKind, type RigOutput } from '../outputs/kinds';

/** What leaves by an output: MIDI messages or OSC packets. */
export function takes(output: RigOutput): 'midi' | 'osc' {
  return outputKind(output.kind).takes;
}

export function outputsTaking(rig: RigDocument, body: 'midi' | 'osc'): RigOutput[] {
  return rig.outputs.filter((output) => takes(output) === body);
}

export function firstTaking(rig: RigDocument, body: 'midi' | 'osc'): RigOutput | undefined {
  return rig.outputs.find((output) => takes(output) === body);
}
