import { removeMapping } from './duplicate';
import type { RigDocument, RigInput } from './document';
import { applyEdit, type Change } from './edit';
import { freeId, freeName } from './naming';
import { renameDerived, renameInput, renameMapping, renameScene, renameSignal, renameSurface, type Renaming } from './rename';

/** Put back: what the part holds takes the place of what has its ids. Beside: it is added under ids of its own. */
export type CombineHow = 'putBack' | 'beside';

/**
 * What to change so that a part (or a whole rig) comes into this rig. Put back makes the inputs of the part as they were,
 * with the mappings they had and no others. Either way outputs and receivers that the rig has already stay as they are,
 * unless the part is nothing but them, and an input that stands for a device that the rig knows is that input.
 */
export function combine(rig: RigDocument, part: RigDocument, how: CombineHow): Change[] {
  const names = renaming(rig, part, how);
  const outputsAlone = part.inputs.length === 0;
  const inputs = part.inputs.map((input) => renameInput(input, names));
  const signals = part.signals.map((signal) => renameSignal(signal, names));
  const derived = part.derived.map((signal) => renameDerived(signal, names));
  const mappings = part.mappings.map((mapping) => renameMapping(mapping, names));
  const kept = how === 'beside';
  const has = (list: 'inputs' | 'signals' | 'derived', id: string) => rig[list].some((thing) => thing.id === id);

  const away = how === 'putBack' ? strayMappings(rig, new Set([...signals, ...derived].map(({ id }) => id)), new Set(inputs.map(({ id }) => id)), new Set(mappings.map(({ id }) => id))) : [];
  const after = away.reduce((left, id) => changed(left, removeMapping(left, id)), rig);
  const removal = away.length === 0 ? [] : differences(rig, after);
  const receivers = part.receivers.map((receiver): Change => ({ list: 'receivers', id: names.receivers.get(receiver.id)!, to: { ...receiver, id: names.receivers.get(receiver.id)! } }));
  const outputs = part.outputs.map((output): Change => {
    const id = names.outputs.get(output.id)!;
    return { list: 'outputs', id, to: { ...output, id, receiver: names.receivers.get(output.receiver) ?? output.receiver } };
  });
  const isNew = ({ list, id }: Change) => !rig[list].some((thing) => thing.id === id);
  const mayStand = (change: Change) => (outputsAlone && !kept) || isNew(change);
  const surfaces = part.surfaces.map((surface): Change => {
    const to = renameSurface(surface, names);
    return { list: 'surfaces', id: to.id, to: kept ? { ...to, name: freeName(to.name, rig.surfaces.map(({ name }) => name)) } : to };
  });
  const scenes = part.scenes.map((scene): Change => {
    const to = renameScene(scene, names);
    return { list: 'scenes', id: to.id, to: kept ? { ...to, name: freeName(scene.name, rig.scenes.map(({ name }) => name)) } : to };
  });
  return [
    ...removal,
    ...receivers.filter(mayStand),
    ...outputs.filter(mayStand),
    ...surfaces,
    ...inputs.filter(({ id }) => !kept || !has('inputs', id)).map((to): Change => ({ list: 'inputs', id: to.id, to })),
    ...signals.filter(({ id }) => !kept || !has('signals', id)).map((to): Change => ({ list: 'signals', id: to.id, to })),
    ...derived.filter(({ id }) => !kept || !has('derived', id)).map((to): Change => ({ list: 'derived', id: to.id, to })),
    ...mappings.map((to): Change => ({ list: 'mappings', id: to.id, to })),
    ...scenes,
  ];
}

/** The mappings of the signals or inputs that come back which the part does not hold. */
function strayMappings(rig: RigDocument, signals: ReadonlySet<string>, inputs: ReadonlySet<string>, kept: ReadonlySet<string>): string[] {
  const ofInputs = new Set(rig.signals.filter(({ input }) => inputs.has(input)).map(({ id }) => id));
  return rig.mappings.filter(({ id, signal }) => (ofInputs.has(signal) || signals.has(signal)) && !kept.has(id)).map(({ id }) => id);
}

function changed(rig: RigDocument, changes: Change[]): RigDocument {
  const applied = applyEdit(rig, { kind: 'change', changes });
  return applied.ok ? applied.document : rig;
}

/** What became of mappings and scenes. */
function differences(before: RigDocument, after: RigDocument): Change[] {
  const scenes = after.scenes.flatMap((scene, i): Change[] => (scene === before.scenes[i] ? [] : [{ list: 'scenes', id: scene.id, to: scene }]));
  const mappings = before.mappings.flatMap(({ id }): Change[] => (after.mappings.some((mapping) => mapping.id === id) ? [] : [{ list: 'mappings', id, to: null }]));
  return [...scenes, ...mappings];
}

/** Under which ids the things of the part stand in the rig. */
function renaming(rig: RigDocument, part: RigDocument, how: CombineHow): Renaming {
  const beside = how === 'beside';
  const named = (things: readonly { id: string }[], taken: Set<string>, stands: (id: string) => string | null) =>
    new Map(things.map(({ id }) => [id, stands(id) ?? freeId(id, taken)]));
  const idsOf = (things: readonly { id: string }[]) => new Set(things.map(({ id }) => id));

  const inputs = named(part.inputs, idsOf(rig.inputs), (id) => {
    const input = part.inputs.find((candidate) => candidate.id === id)!;
    const known = rig.inputs.find((candidate) => sameDevice(candidate, input)) ?? rig.inputs.find((candidate) => candidate.id === id);
    if (!known) return null;
    return sameDevice(known, input) || (!beside && known.kind === input.kind) ? known.id : null;
  });
  const signalIds = idsOf([...rig.signals, ...rig.derived]);
  const signals = new Map([
    ...named(part.signals, signalIds, (id) => {
      const signal = part.signals.find((candidate) => candidate.id === id)!;
      const input = inputs.get(signal.input)!;
      const same = rig.signals.find((candidate) => candidate.input === input && (candidate.source !== undefined && candidate.source === signal.source ? true : candidate.id === id));
      return same?.id ?? null;
    }),
    ...named(part.derived, signalIds, (id) => (rig.derived.some((candidate) => candidate.id === id) ? (beside ? null : id) : null)),
  ]);
  const sameKind = (list: 'outputs', id: string) => {
    const here = rig[list].find((candidate) => candidate.id === id);
    return here && here.kind === part[list].find((candidate) => candidate.id === id)!.kind ? id : null;
  };
  const sourceOf = (document: RigDocument, mapping: string) => document.mappings.find(({ id }) => id === mapping)?.signal;
  return {
    inputs,
    signals,
    mappings: named(part.mappings, idsOf(rig.mappings), (id) => {
      const here = sourceOf(rig, id);
      const inputOf = (document: RigDocument, signal: string | undefined) => document.signals.find((candidate) => candidate.id === signal)?.input ?? 'derived';
      const same = here !== undefined && inputOf(rig, here) === (inputs.get(inputOf(part, sourceOf(part, id))) ?? 'derived');
      return same && !beside ? id : null;
    }),
    outputs: named(part.outputs, idsOf(rig.outputs), (id) => sameKind('outputs', id)),
    receivers: named(part.receivers, idsOf(rig.receivers), (id) => (rig.receivers.some((receiver) => receiver.id === id) ? id : null)),
    scenes: named(part.scenes, idsOf(rig.scenes), (id) => (beside ? null : id)),
    surfaces: named(part.surfaces, idsOf(rig.surfaces), (id) => (!beside && rig.surfaces.some((surface) => surface.id === id) ? id : null)),
  };
}

function sameDevice(one: RigInput, other: RigInput): boolean {
  const device = (input: RigInput) => ('device' in input && input.device ? `${input.kind} ${input.device.report} ${input.device.slot}` : null);
  return device(one) !== null && device(one) === device(other);
}
