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

/** The lowest channel that mappings send on by an output; 1 where there are none. */
export function firstChannel(rig: RigDocument, output: string): number {
  const channels = rig.mappings.flatMap(({ output: to, message }) => (to === output && 'channel' in message ? [message.channel] : []));
  return channels.length === 0 ? 1 : Math.min(...channels);
}
