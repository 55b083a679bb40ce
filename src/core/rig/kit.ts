import type { RigDocument } from './document';
import type { RigList } from './edit';
import { eachLink, keysOfThing, linkKey, relink, sourcesOf, type Follow } from './links';

/** What of a rig can be kept on its own: an input (or the surface that is one) with its mappings, or an output. */
export type KitOf = { list: 'inputs' | 'outputs'; id: string };

/**
 * A kit: some of a rig as a small rig of its own, whole in itself. An input with its signals, what is derived from them
 * alone, the mappings of both and the outputs that these go to; or an output with its receiver. What points out of it is
 * left out. Null where the rig has no such thing.
 */
export function kitOf(rig: RigDocument, { list, id }: KitOf): RigDocument | null {
  const thing = rig[list].find((candidate) => candidate.id === id);
  if (!thing) return null;
  const own = new Set(keysOfThing(list, thing));
  if (list === 'inputs') {
    const surface = 'surface' in thing ? rig.surfaces.find((candidate) => candidate.id === thing.surface) : undefined;
    for (const key of surface ? keysOfThing('surfaces', surface) : []) own.add(key);
    for (const stream of rig.streams) if (stream.input === id) own.add(keysOfThing('streams', stream)[0]!);
    for (const signal of rig.signals) if (signal.input === id) for (const key of keysOfThing('signals', signal)) own.add(key);
    growBy(own, rig);
    addMembers(own, rig);
    for (const { id: mapping, stream } of rig.voiceMappings) if (own.has(linkKey('stream', stream))) own.add(linkKey('voiceMapping', mapping));
  }
  // Where things go comes along: it is the only thing that a kit needs and does not own.
  const outputs = new Set(list === 'outputs' ? [id] : []);
  const follow: Follow = (kind, target, _, page) => {
    if (kind === 'output') outputs.add(target);
    if (kind === 'scale') own.add(linkKey(kind, target));
    return kind === 'output' || kind === 'scale' || kind === 'receiver' || own.has(linkKey(kind, target, page)) ? target : null;
  };
  const kept = <L extends RigList>(of: L) => rig[of].filter((one) => own.has(keysOfThing(of, one)[0]!)).flatMap((one) => relink(of, one, follow) ?? []) as RigDocument[L];
  const kit: RigDocument = { ...rig, name: thing.name, inputs: kept('inputs'), signals: kept('signals'), derived: kept('derived'), mappings: kept('mappings'), streams: kept('streams'), members: kept('members'), voiceMappings: kept('voiceMappings'), scales: kept('scales'), surfaces: kept('surfaces'), scenes: [], outputs: [], receivers: [] };
  // What sets a receiver up may leave by another output, which comes along then.
  for (let before = -1; before !== outputs.size; ) {
    before = outputs.size;
    kit.outputs = rig.outputs.filter((output) => outputs.has(output.id)).flatMap((output) => relink('outputs', output, follow) ?? []);
  }
  kit.receivers = rig.receivers.filter((receiver) => kit.outputs.some((output) => output.receiver === receiver.id)).flatMap((receiver) => relink('receivers', receiver, follow) ?? []);
  return kit;
}

/** Adds members of the ensemble that hear and follow nothing but what a kit owns. */
function addMembers(own: Set<string>, rig: RigDocument): void {
  for (let before = -1; before !== own.size; ) {
    before = own.size;
    for (const member of rig.members) {
      let hears = 0;
      let foreign = 0;
      eachLink('members', member, (kind, id) => void (own.has(linkKey(kind, id)) ? hears++ : foreign++));
      if (hears > 0 && foreign === 0) for (const key of keysOfThing('members', member)) own.add(key);
    }
  }
}

/** Adds what is made of things that a kit owns and of nothing else: derived signals, and the mappings of any. */
function growBy(own: Set<string>, rig: RigDocument): void {
  const has = (id: string) => own.has(linkKey('signal', id));
  for (let before = -1; before !== own.size; ) {
    before = own.size;
    for (const { id, formula } of rig.derived) {
      const sources = sourcesOf(formula);
      if (sources.length > 0 && sources.every(has)) own.add(linkKey('signal', id));
    }
  }
  const follow: Follow = (kind, id) => (kind !== 'mapping' || own.has(linkKey(kind, id)) ? id : null);
  for (const { id, signal } of rig.mappings) if (has(signal)) own.add(linkKey('mapping', id));
  // Poly pressure of a note that stays behind stays with it.
  for (let before = -1; before !== own.size; ) {
    before = own.size;
    for (const mapping of rig.mappings) if (relink('mappings', mapping, follow) === null) own.delete(linkKey('mapping', mapping.id));
  }
}
