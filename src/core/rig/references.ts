import { derivedOrder } from '../signal/order';
import { flatControls, LIMITS_OF_CONTROLS, rolesOf } from '../surface/controlKinds';
import { memberOrder } from '../ensemble/order';
import type { RigControl, RigDocument, RigSurface } from './document';
import { RIG_LISTS, type RigList } from './edit';
import { kindOf } from '../messages';
import { takes } from './outputs';
import { kindOfAxis } from '../voices/axisMessages';
import { bodyOf } from '../voices/layout';
import { eachLink, keepsAll, linkKey, linkKeys, type LinkKind } from './links';

export interface DanglingReference {
  /** Path in the document, as `mappings[3].signal`. */
  path: string;
  message: string;
}

type Say = (path: string, message: string) => void;

const WANTED: Record<LinkKind, string> = {
  input: 'an input of this rig',
  signal: 'a signal of this rig',
  mapping: 'a mapping of this rig',
  stream: 'a stream or member of this rig',
  member: 'a member of the ensemble',
  voiceMapping: 'a voice mapping of this rig',
  scale: 'a scale of this rig',
  receiver: 'a receiver of this rig',
  output: 'an output of this rig',
  surface: 'a surface of this rig',
  page: 'a page of this surface',
  scene: 'a scene of this rig',
};

/**
 * Ids that point nowhere or stand twice, circles of derived signals, and what in one thing contradicts another: all of them,
 * each with its path.
 * @param before the document before an edit, known to be good: only what the edit may have broken is looked at
 */
export function checkReferences(rig: RigDocument, before: RigDocument | null = null): DanglingReference[] {
  const found: DanglingReference[] = [];
  const say: Say = (path, message) => void found.push({ path, message });
  const isNew = newerThan(rig, before);
  for (const list of RIG_LISTS) if (list !== 'derived' && list !== 'members' && rig[list] !== before?.[list]) uniqueIds(list, rig[list], say);
  if (rig.streams !== before?.streams || rig.members !== before?.members) uniqueIds('members', rig.members, say, new Set(rig.streams.map(({ id }) => id)));
  if (rig.signals !== before?.signals || rig.derived !== before?.derived) uniqueIds('derived', rig.derived, say, new Set(rig.signals.map(({ id }) => id)));

  const keys = linkKeys(rig);
  for (const list of RIG_LISTS) {
    rig[list].forEach((thing, i) => {
      if (!isNew(list, thing)) return;
      eachLink(list, thing, (kind, id, at, surface) => {
        if (!keys.has(linkKey(kind, id, surface))) say(`${list}[${i}].${at}`, `expected the id of ${WANTED[kind]}, found "${id}"`);
      });
    });
  }
  // Where a gate goes on may follow from its signal.
  const sameSignals = rig.signals === before?.signals && rig.derived === before.derived;
  rig.mappings.forEach((mapping, i) => {
    if (sameSignals && !isNew('mappings', mapping)) return;
    const { on, off } = mapping.gate ?? {};
    const goesOn = on === undefined && off !== undefined ? defaultOn(rig, mapping.signal) : 1;
    if (off !== undefined && off > goesOn) say(`mappings[${i}].gate.off`, `expected at most ${goesOn}, where this gate goes on unless "on" says otherwise, found ${off}`);
  });
  checkVoices(rig, isNew, say);
  checkBodies(rig, isNew, say);
  rig.surfaces.forEach((surface, s) => {
    if (!isNew('surfaces', surface)) return;
    uniqueIds(`surfaces[${s}].pages`, surface.pages, say);
    surface.pages.forEach(({ controls }, p) => checkControls(`surfaces[${s}].pages[${p}].controls`, controls, surface, say));
  });
  if (rig.derived !== before?.derived) checkOrder(rig, say);
  if (rig.members !== before?.members) checkMembers(rig, say);
  return found;
}

/** Says of a thing whether an edit may have broken it: it is another now, or something went that it may refer to. */
function newerThan(rig: RigDocument, before: RigDocument | null): (list: RigList, thing: object) => boolean {
  // An output that takes something else now is another to all that go by it.
  const otherOutputs = rig.outputs !== before?.outputs && rig.outputs.some((output) => before?.outputs.some(({ id, kind }) => id === output.id && kind !== output.kind));
  if (!before || otherOutputs || !keepsAll(before, rig)) return () => true;
  const known = new Map<RigList, Set<object>>(RIG_LISTS.flatMap((list) => (rig[list] === before[list] ? [] : [[list, new Set<object>(before[list])]])));
  return (list, thing) => known.has(list) && !known.get(list)!.has(thing);
}

/** MIDI cannot leave by an output of OSC, nor OSC by one of MIDI. */
function checkBodies(rig: RigDocument, isNew: (list: RigList, thing: object) => boolean, say: Say): void {
  const ways = new Map(rig.outputs.map((output) => [output.id, output]));
  const must = (path: string, what: string, body: 'midi' | 'osc', output: string) => {
    const way = ways.get(output);
    if (way && takes(way) !== body) say(path, `expected an output that takes ${body === 'osc' ? 'OSC' : 'MIDI'}, as ${what} is, found "${way.name}"`);
  };
  rig.outputs.forEach(({ id, configuration }, i) => {
    if (typeof configuration !== 'object') return;
    must(`outputs[${i}].configuration.to`, 'what sets a receiver up', 'midi', configuration.to);
    if (configuration.to === id) say(`outputs[${i}].configuration.to`, 'expected another output, found this one itself');
  });
  rig.outputs.forEach((output, i) => isNew('outputs', output) && output.sendsClock && must(`outputs[${i}].sendsClock`, 'a clock', 'midi', output.id));
  rig.mappings.forEach((mapping, i) => isNew('mappings', mapping) && must(`mappings[${i}].output`, `the message of "${mapping.name}"`, kindOf(mapping.message).body, mapping.output));
  rig.voiceMappings.forEach((mapping, i) => isNew('voiceMappings', mapping) && must(`voiceMappings[${i}].output`, `the layout of "${mapping.name}"`, bodyOf(mapping.layout), mapping.output));
  rig.mappings.forEach((mapping, i) => isNew('mappings', mapping) && mapping.shownOn && must(`mappings[${i}].shownOn.output`, 'what a controller shows', 'midi', mapping.shownOn.output));
  rig.inputs.forEach((input, i) => isNew('inputs', input) && input.kind === 'midi' && input.thru && must(`inputs[${i}].thru.output`, 'what goes through', 'midi', input.thru.output));
  rig.inputs.forEach((input, i) => isNew('inputs', input) && input.kind === 'midi' && input.thru?.split && must(`inputs[${i}].thru.split.output`, 'what goes through', 'midi', input.thru.split.output));
  rig.scenes.forEach((scene, s) => isNew('scenes', scene) && scene.messages.forEach(({ output }, m) => must(`scenes[${s}].messages[${m}].output`, 'a message of a scene', 'midi', output)));
}

/** A voice mapping and a mapping go by the same numbers outside, so their ids are unlike too; members of a run go upwards. */
function checkVoices(rig: RigDocument, isNew: (list: RigList, thing: object) => boolean, say: Say): void {
  const mappings = new Set(rig.mappings.map(({ id }) => id));
  rig.voiceMappings.forEach((mapping, i) => {
    const { id, keys, strikes } = mapping;
    if (mappings.has(id)) say(`voiceMappings[${i}].id`, `expected an id that no mapping has, found "${id}"`);
    if (!isNew('voiceMappings', mapping)) return;
    if (keys && keys.low > keys.high) say(`voiceMappings[${i}].keys.high`, `expected a key from ${keys.low} up, found ${keys.high}`);
    for (const name of ['pressure', 'slide'] as const) {
      const axis = mapping[name];
      if (axis && kindOfAxis(axis.message).body !== bodyOf(mapping.layout)) say(`voiceMappings[${i}].${name}.message`, `expected ${bodyOf(mapping.layout) === 'osc' ? 'OSC' : 'MIDI'}, as the layout is, found ${kindOfAxis(axis.message).name.toLowerCase()}`);
    }
    if (strikes && strikes.low > strikes.high) say(`voiceMappings[${i}].strikes.high`, `expected a number from ${strikes.low} up, found ${strikes.high}`);
  });
  const played = new Map<string, string>();
  rig.surfaces.forEach((surface, s) =>
    surface.pages.forEach(({ controls }, p) =>
      flatControls(controls).forEach((control) => {
        if (!('stream' in control) || control.stream === undefined) return;
        const stream = rig.streams.find(({ id }) => id === control.stream);
        const input = rig.inputs.find(({ id }) => id === stream?.input);
        const at = `surfaces[${s}].pages[${p}], control ${control.id}`;
        // A member of the ensemble is a stream too, and nobody's but its own.
        const foreign = stream ? !(input?.kind === 'surface' && input.surface === surface.id) : rig.members.some(({ id }) => id === control.stream);
        if (foreign) say(at, `expected a stream of this surface, found "${control.stream}"`);
        if (played.has(control.stream)) say(at, `expected a stream of its own, found that of ${played.get(control.stream)}`);
        played.set(control.stream, control.id);
      }),
    ),
  );
}

function checkOrder(rig: RigDocument, say: Say): void {
  const order = derivedOrder(rig);
  if (order.ok) return;
  const at = rig.derived.findIndex(({ id }) => id === order.circle[0]);
  say(`derived[${at}].formula`, `derived signals must not go in a circle, found ${order.circle.join(' -> ')}`);
}

/** Who listens to itself, by however many others, would never end. */
function checkMembers(rig: RigDocument, say: Say): void {
  const ordered = memberOrder(rig);
  if (ordered.ok) return;
  const name = (id: string) => rig.members.find((member) => member.id === id)!.name;
  say(`members[${rig.members.findIndex(({ id }) => id === ordered.circle[0])}].part`, `members must not listen to each other in a circle, found ${ordered.circle.map(name).join(' -> ')}`);
}

/** The level at which a gate goes on where a mapping does not say: anything but rest, or half of the way. */
export function defaultOn(rig: RigDocument, signalId: string): number {
  return [...rig.signals, ...rig.derived].find(({ id }) => id === signalId)?.kind === 'gate' ? 0 : 0.5;
}

function checkControls(path: string, controls: readonly RigControl[], surface: RigSurface, say: Say, ids = new Set<string>()): void {
  uniqueIds(path, controls, say, ids);
  controls.forEach((control, c) => {
    const at = `${path}[${c}]`;
    const wanted = rolesOf(control).map(({ role }) => role);
    const sets = [[`${at}.signals`, control.signals] as const, ...(control.banks ?? []).map((set, i) => [`${at}.banks[${i}]`, set] as const)];
    for (const [where, set] of sets) {
      for (const role of wanted) if (!(role in set)) say(`${where}.${role}`, 'expected the id of a signal, found nothing');
      for (const role of Object.keys(set)) if (!wanted.includes(role)) say(`${where}.${role}`, `expected none but the signals of a ${control.kind} (${wanted.join(', ') || 'none'}), found one more`);
    }
    if ((control.banks?.length ?? 0) > Math.max(0, (surface.banks?.length ?? 0) - 1)) say(`${at}.banks`, `expected no more banks than the surface has, found ${control.banks!.length + 1}`);
    if (control.kind === 'keys' && (control.high < control.low || control.high - control.low >= LIMITS_OF_CONTROLS.keys)) {
      say(`${at}.high`, `expected a note from low to ${LIMITS_OF_CONTROLS.keys - 1} above it, found ${control.high}`);
    }
    if (control.kind === 'fold') checkControls(`${at}.controls`, control.controls, surface, say, ids);
  });
}

function uniqueIds(path: string, things: readonly { id: string }[], say: Say, ids = new Set<string>()): void {
  things.forEach(({ id }, i) => {
    if (ids.has(id)) say(`${path}[${i}].id`, `expected an id used once, found "${id}" again`);
    ids.add(id);
  });
}
