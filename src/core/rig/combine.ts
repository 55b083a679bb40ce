import type { RigDocument } from './document';
import type { Change, RigList } from './edit';
import type { ThingOf } from './links';
import { mappingIds } from './find';
import { freeId, freeName } from './naming';
import { remove } from './remove';
import { rename, type Renaming } from './rename';
import type { RigInput } from '../inputs/kinds';

/** Put back: what the kit holds takes the place of what has its ids. Beside: it is added under ids of its own. */
export type CombineHow = 'putBack' | 'beside';

/**
 * What to change so that a kit (or a whole rig) comes into this rig. Put back makes the inputs of the kit as they were,
 * with the mappings they had and no others. Either way outputs and receivers that the rig has already stay as they are,
 * unless the kit is nothing but them, and an input that stands for a feed that the rig knows is that input.
 */
export function combine(rig: RigDocument, kit: RigDocument, how: CombineHow): Change[] {
  const names = renaming(rig, kit, how);
  const beside = how === 'beside';
  const renamed = <L extends RigList>(list: L) => kit[list].map((thing) => rename(list, thing, names));
  const has = (list: RigList, id: string) => rig[list].some((thing) => thing.id === id);
  const put = <L extends RigList>(list: L, mayStand: (thing: ThingOf<L>) => boolean = () => true) => renamed(list).filter(mayStand).map((to) => ({ list, id: to.id, to }) as Change);
  /** Under a name of its own where it is added to others. */
  const putNamed = (list: 'surfaces' | 'scenes') =>
    put(list).map((change) => (beside ? ({ ...change, to: { ...change.to, name: freeName(change.to!.name, rig[list].map(({ name }) => name)) } } as Change) : change));

  const outputsAlone = kit.inputs.length === 0;
  const isNew = (list: RigList) => ({ id }: { id: string }) => !has(list, id);
  const unlessThere = (list: 'outputs' | 'receivers') => put(list, outputsAlone && !beside ? undefined : isNew(list));
  const ofInputs = (list: 'inputs' | 'signals' | 'derived' | 'streams') => put(list, beside ? isNew(list) : undefined);
  const back = (list: RigList) => new Set(renamed(list).map(({ id }) => id));
  const stray = beside ? [] : strayMappings(rig, new Set([...back('signals'), ...back('derived')]), back('inputs'), back('mappings'));
  return [
    ...(stray.length === 0 ? [] : remove(rig, stray.map((id) => ({ kind: 'mapping', id })))),
    ...unlessThere('receivers'),
    ...unlessThere('outputs'),
    ...putNamed('surfaces'),
    ...ofInputs('inputs'),
    ...ofInputs('signals'),
    ...ofInputs('derived'),
    ...put('scales', isNew('scales')),
    ...ofInputs('streams'),
    ...put('members'),
    ...put('mappings'),
    ...put('voiceMappings'),
    ...putNamed('scenes'),
  ];
}

/** The mappings of the signals or inputs that come back which the kit does not hold. */
function strayMappings(rig: RigDocument, signals: ReadonlySet<string>, inputs: ReadonlySet<string>, kept: ReadonlySet<string>): string[] {
  const ofInputs = new Set(rig.signals.filter(({ input }) => inputs.has(input)).map(({ id }) => id));
  return rig.mappings.filter(({ id, signal }) => (ofInputs.has(signal) || signals.has(signal)) && !kept.has(id)).map(({ id }) => id);
}

/** Under which ids the things of the kit stand in the rig. */
function renaming(rig: RigDocument, kit: RigDocument, how: CombineHow): Renaming {
  const beside = how === 'beside';
  const named = (things: readonly { id: string }[], taken: Set<string>, stands: (id: string) => string | null) =>
    new Map(things.map(({ id }) => [id, stands(id) ?? freeId(id, taken)]));
  const idsOf = (things: readonly { id: string }[]) => new Set(things.map(({ id }) => id));

  const inputs = named(kit.inputs, idsOf(rig.inputs), (id) => {
    const input = kit.inputs.find((candidate) => candidate.id === id)!;
    const known = rig.inputs.find((candidate) => sameFeed(candidate, input)) ?? rig.inputs.find((candidate) => candidate.id === id);
    if (!known) return null;
    return sameFeed(known, input) || (!beside && known.kind === input.kind) ? known.id : null;
  });
  const signalIds = idsOf([...rig.signals, ...rig.derived]);
  const signals = new Map([
    ...named(kit.signals, signalIds, (id) => {
      const signal = kit.signals.find((candidate) => candidate.id === id)!;
      const input = inputs.get(signal.input)!;
      const same = rig.signals.find((candidate) => candidate.input === input && (candidate.source !== undefined && candidate.source === signal.source ? true : candidate.id === id));
      return same?.id ?? null;
    }),
    ...named(kit.derived, signalIds, (id) => (rig.derived.some((candidate) => candidate.id === id) ? (beside ? null : id) : null)),
  ]);
  const takenMappings = mappingIds(rig);
  const streamIds = idsOf([...rig.streams, ...rig.members]);
  const sameKind = (list: 'outputs', id: string) => {
    const here = rig[list].find((candidate) => candidate.id === id);
    return here && here.kind === kit[list].find((candidate) => candidate.id === id)!.kind ? id : null;
  };
  const sourceOf = (document: RigDocument, mapping: string) => document.mappings.find(({ id }) => id === mapping)?.signal;
  return {
    inputs,
    signals,
    mappings: named(kit.mappings, takenMappings, (id) => {
      const here = sourceOf(rig, id);
      const inputOf = (document: RigDocument, signal: string | undefined) => document.signals.find((candidate) => candidate.id === signal)?.input ?? 'derived';
      const same = here !== undefined && inputOf(rig, here) === (inputs.get(inputOf(kit, sourceOf(kit, id))) ?? 'derived');
      return same && !beside ? id : null;
    }),
    streams: new Map([...named(kit.streams, streamIds, (id) => {
      const stream = kit.streams.find((candidate) => candidate.id === id)!;
      const input = inputs.get(stream.input)!;
      const same = rig.streams.find((candidate) => candidate.input === input && (candidate.source !== undefined && candidate.source === stream.source ? true : candidate.id === id));
      return same?.id ?? null;
    }), ...named(kit.members, streamIds, (id) => (!beside && rig.members.some((member) => member.id === id) ? id : null))]),
    voiceMappings: named(kit.voiceMappings, takenMappings, (id) => (!beside && rig.voiceMappings.some((mapping) => mapping.id === id) ? id : null)),
    scales: named(kit.scales, idsOf(rig.scales), (id) => (rig.scales.some((scale) => scale.id === id) ? id : null)),
    outputs: named(kit.outputs, idsOf(rig.outputs), (id) => sameKind('outputs', id)),
    receivers: named(kit.receivers, idsOf(rig.receivers), (id) => (rig.receivers.some((receiver) => receiver.id === id) ? id : null)),
    scenes: named(kit.scenes, idsOf(rig.scenes), (id) => (beside ? null : id)),
    surfaces: named(kit.surfaces, idsOf(rig.surfaces), (id) => (!beside && rig.surfaces.some((surface) => surface.id === id) ? id : null)),
  };
}

function sameFeed(one: RigInput, other: RigInput): boolean {
  const feed = (input: RigInput) => ('device' in input && input.device ? `${input.kind} ${input.device.report} ${input.device.slot}` : null);
  return feed(one) !== null && feed(one) === feed(other);
}
