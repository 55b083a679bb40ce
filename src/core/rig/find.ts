import type { RigDerived, RigDocument, RigSignal } from './document';

/** A signal of either kind and where it comes from, in a word; undefined where the rig has none of this id. */
export function findSignal(rig: RigDocument, id: string): { signal: RigSignal | RigDerived; from: string } | undefined {
  const signal = rig.signals.find((candidate) => candidate.id === id);
  if (signal) return { signal, from: rig.inputs.find((input) => input.id === signal.input)?.name ?? signal.input };
  const derived = rig.derived.find((candidate) => candidate.id === id);
  return derived && { signal: derived, from: 'Derived' };
}
