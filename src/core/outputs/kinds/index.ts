import { commonFields, type OutputBase, type OutputKind } from './kind';
import { network, type NetworkOutput } from './network';
import { osc, type OscOutput } from './osc';
import { page, type PageOutput } from './page';
import { port, type PortOutput } from './port';
import { standIn, type StandInOutput } from './standIn';
import { virtual, type VirtualOutput } from './virtual';

/** A way out of the program. */
export type RigOutput = StandInOutput | OscOutput | PortOutput | VirtualOutput | PageOutput | NetworkOutput;

const KINDS: { [K in RigOutput['kind']]: OutputKind<Extract<RigOutput, { kind: K }>> } = { standIn, osc, port, virtual, page, network };

/** Every kind of output, with all its fields. */
export const OUTPUTS = Object.fromEntries(Object.entries(KINDS).map(([kind, of]) => [kind, { ...of, fields: { ...commonFields, ...of.fields } }])) as typeof KINDS;

/** What is known of a kind of output. */
export function outputKind(kind: RigOutput['kind']): OutputKind<OutputBase & RigOutput> {
  return OUTPUTS[kind] as unknown as OutputKind<OutputBase & RigOutput>;
}

/** Where an output leads, for its card. */
export function outputInWords(output: RigOutput): string {
  return outputKind(output.kind).words(output);
}

/** Whether two outputs lead to the same place in the same way; names and what else is done with them do not matter. */
export function sameWay(a: RigOutput, b: RigOutput): boolean {
  const way = (output: RigOutput) => {
    const own = Object.keys(KINDS[output.kind].fields) as (keyof RigOutput)[];
    return JSON.stringify([output.kind, output.bytesPerS ?? null, output.delayMs ?? 0, own.map((field) => output[field])]);
  };
  return way(a) === way(b);
}
