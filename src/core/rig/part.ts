import { withControls } from '../surface/controls';
import { sourcesOf } from '../signal/order';
import type { MessageSpec, RigControl, RigDocument, RigMapping, RigSignal } from './document';

/** What of a rig can be stored on its own: an input (or the surface that is one) with its mappings, or an output. */
export type PartOf = { list: 'inputs' | 'outputs'; id: string };

/**
 * A part of a rig as a small rig of its own, whole in itself: an input with its signals, what is derived from them alone,
 * the mappings of both and the outputs that these go to; or an output with its receiver. What points out of the part is
 * left out. Null where the rig has no such thing.
 */
export function partOf(rig: RigDocument, { list, id }: PartOf): RigDocument | null {
  const thing = rig[list].find((candidate) => candidate.id === id);
  if (!thing) return null;
  const empty: RigDocument = { ...rig, name: thing.name, inputs: [], signals: [], derived: [], mappings: [], outputs: [], receivers: [], surfaces: [], scenes: [] };
  if (list === 'outputs') return withOutputs(rig, empty, new Set([id]));

  const input = rig.inputs.find((candidate) => candidate.id === id)!;
  const own = new Set(rig.signals.filter((signal) => signal.input === id).map((signal) => signal.id));
  for (let before = -1; before !== own.size; ) {
    before = own.size;
    for (const { id: derived, formula } of rig.derived) {
      const sources = sourcesOf(formula);
      if (sources.length > 0 && sources.every((source) => own.has(source))) own.add(derived);
    }
  }
  const mapped = rig.mappings.filter(({ signal }) => own.has(signal)).map((mapping) => withoutStrangers(mapping, own));
  const kept = new Set(mapped.map((mapping) => mapping.id));
  const mappings = mapped.filter(({ message }) => message.kind !== 'polyPressure' || typeof message.note === 'number' || kept.has(message.note.of));
  const outputs = new Set(mappings.map(({ output }) => output));
  if (input.kind === 'midi' && input.thru) outputs.add(input.thru.output);
  const part: RigDocument = {
    ...empty,
    inputs: [input],
    signals: rig.signals.filter((signal) => signal.input === id).map((signal) => among(signal, own)),
    derived: rig.derived.filter((derived) => own.has(derived.id)),
    mappings,
    surfaces: input.kind === 'surface' ? rig.surfaces.filter((surface) => surface.id === input.surface).map((surface) => withControls(surface, (control) => forget(control, own))) : [],
  };
  return withOutputs(rig, part, outputs);
}

function withOutputs(rig: RigDocument, part: RigDocument, ids: ReadonlySet<string>): RigDocument {
  const outputs = rig.outputs.filter((output) => ids.has(output.id));
  const receivers = rig.receivers.filter((receiver) => outputs.some((output) => output.receiver === receiver.id));
  return { ...part, outputs, receivers };
}

/** A control without the scenes and the foreign signals that it names. */
function forget(control: RigControl, own: ReadonlySet<string>): RigControl {
  if (control.kind === 'scene') return { ...control, scene: null };
  return 'shows' in control && control.shows !== null && !own.has(control.shows) ? { ...control, shows: null } : control;
}

function among(signal: RigSignal, own: ReadonlySet<string>): RigSignal {
  const kept = { ...signal };
  if (kept.pair !== undefined && !own.has(kept.pair)) delete kept.pair;
  if (kept.returns && !own.has(kept.returns.released)) delete kept.returns;
  return kept;
}

/** The mapping without what signals of other inputs would set. */
function withoutStrangers(mapping: RigMapping, own: ReadonlySet<string>): RigMapping {
  const { message } = mapping;
  if (message.kind === 'relative' && message.fine && !own.has(message.fine.signal)) return { ...mapping, message: without(message, 'fine') };
  if (message.kind === 'note' && message.repeat && 'rateHz' in message.repeat && typeof message.repeat.rateHz === 'object' && !own.has(message.repeat.rateHz.signal)) {
    return { ...mapping, message: without(message, 'repeat') };
  }
  return mapping;
}

function without(message: MessageSpec, field: string): MessageSpec {
  return Object.fromEntries(Object.entries(message).filter(([key]) => key !== field)) as unknown as MessageSpec;
}
