import { derivedOrder, sourcesOf } from '../signal/order';
import { LIMITS_OF_CONTROLS, rolesOf } from '../surface/controlKinds';
import type { MessageSpec, RigControl, RigDocument, RigSurface } from './document';

export interface DanglingReference {
  /** Path in the document, as `mappings[3].signal`. */
  path: string;
  message: string;
}

type Kind = 'input' | 'signal' | 'mapping' | 'receiver' | 'output' | 'surface' | 'page' | 'scene';
type Refer = (path: string, kind: Kind, id: string) => void;

/** Ids that point nowhere or stand twice, and circles of derived signals: all of them, each with its path. */
export function checkReferences(rig: RigDocument): DanglingReference[] {
  const found: DanglingReference[] = [];
  const ids: Record<Kind, Set<string>> = {
    input: uniqueIds('inputs', rig.inputs, found),
    signal: uniqueIds('signals', rig.signals, found),
    mapping: uniqueIds('mappings', rig.mappings, found),
    receiver: uniqueIds('receivers', rig.receivers, found),
    output: uniqueIds('outputs', rig.outputs, found),
    surface: uniqueIds('surfaces', rig.surfaces, found),
    page: new Set(rig.surfaces.flatMap(({ pages }) => pages.map(({ id }) => id))),
    scene: uniqueIds('scenes', rig.scenes, found),
  };
  rig.derived.forEach(({ id }, i) => {
    if (ids.signal.has(id)) found.push({ path: `derived[${i}].id`, message: `expected an id used once, found "${id}" again` });
    ids.signal.add(id);
  });
  const refer: Refer = (path, kind, id) => {
    const article = kind === 'input' || kind === 'output' ? 'an' : 'a';
    if (!ids[kind].has(id)) found.push({ path, message: `expected the id of ${article} ${kind} of this rig, found "${id}"` });
  };

  rig.inputs.forEach((input, i) => {
    if (input.kind === 'surface') refer(`inputs[${i}].surface`, 'surface', input.surface);
    if (input.kind === 'midi' && input.thru) refer(`inputs[${i}].thru.output`, 'output', input.thru.output);
  });
  rig.signals.forEach((signal, i) => {
    refer(`signals[${i}].input`, 'input', signal.input);
    if (signal.pair !== undefined) refer(`signals[${i}].pair`, 'signal', signal.pair);
    if (signal.returns) refer(`signals[${i}].returns.released`, 'signal', signal.returns.released);
  });
  rig.derived.forEach(({ formula }, i) => {
    for (const source of sourcesOf(formula)) refer(`derived[${i}].formula`, 'signal', source);
  });
  rig.outputs.forEach((output, i) => refer(`outputs[${i}].receiver`, 'receiver', output.receiver));
  rig.mappings.forEach((mapping, i) => {
    refer(`mappings[${i}].signal`, 'signal', mapping.signal);
    refer(`mappings[${i}].output`, 'output', mapping.output);
    referMessage(`mappings[${i}].message`, mapping.message, refer);
    const { on, off } = mapping.gate ?? {};
    const goesOn = on === undefined && off !== undefined ? defaultOn(rig, mapping.signal) : 1;
    if (off !== undefined && off > goesOn) {
      found.push({ path: `mappings[${i}].gate.off`, message: `expected at most ${goesOn}, where this gate goes on unless "on" says otherwise, found ${off}` });
    }
  });
  rig.surfaces.forEach((surface, s) => {
    uniqueIds(`surfaces[${s}].pages`, surface.pages, found);
    surface.pages.forEach(({ controls }, p) => checkControls(`surfaces[${s}].pages[${p}].controls`, controls, surface, refer, found));
  });
  rig.scenes.forEach((scene, s) => {
    for (const id of Object.keys(scene.mappings)) refer(`scenes[${s}].mappings`, 'mapping', id);
    for (const id of Object.keys(scene.values)) refer(`scenes[${s}].values`, 'signal', id);
    for (const [surface, page] of Object.entries(scene.pages)) {
      refer(`scenes[${s}].pages`, 'surface', surface);
      refer(`scenes[${s}].pages.${surface}`, 'page', page);
    }
    // Derived signals are left out: one that moves by itself would recall scenes by itself.
    const trigger = scene.recalledBy?.signal;
    if (trigger !== undefined && !rig.signals.some(({ id }) => id === trigger)) {
      found.push({ path: `scenes[${s}].recalledBy.signal`, message: `expected the id of a signal of an input, found "${trigger}"` });
    }
    scene.messages.forEach(({ output }, m) => refer(`scenes[${s}].messages[${m}].output`, 'output', output));
  });

  const order = derivedOrder(rig);
  if (!order.ok) {
    const at = rig.derived.findIndex(({ id }) => id === order.circle[0]);
    found.push({ path: `derived[${at}].formula`, message: `derived signals must not go in a circle, found ${order.circle.join(' -> ')}` });
  }
  return found;
}

/** The level at which a gate goes on where a mapping does not say: anything but rest, or half of the way. */
export function defaultOn(rig: RigDocument, signalId: string): number {
  return [...rig.signals, ...rig.derived].find(({ id }) => id === signalId)?.kind === 'gate' ? 0 : 0.5;
}

function referMessage(path: string, message: MessageSpec, refer: Refer): void {
  if (message.kind === 'polyPressure' && typeof message.note === 'object') refer(`${path}.note.of`, 'mapping', message.note.of);
  if (message.kind === 'relative' && message.fine) refer(`${path}.fine.signal`, 'signal', message.fine.signal);
  if (message.kind === 'note' && message.repeat && 'rateHz' in message.repeat && typeof message.repeat.rateHz === 'object') {
    refer(`${path}.repeat.rateHz.signal`, 'signal', message.repeat.rateHz.signal);
  }
}

function checkControls(path: string, controls: readonly RigControl[], surface: RigSurface, refer: Refer, found: DanglingReference[], ids = new Set<string>()): void {
  uniqueIds(path, controls, found, ids);
  controls.forEach((control, c) => {
    const at = `${path}[${c}]`;
    const wanted = rolesOf(control).map(({ role }) => role);
    const sets = [[`${at}.signals`, control.signals] as const, ...(control.banks ?? []).map((set, i) => [`${at}.banks[${i}]`, set] as const)];
    for (const [where, set] of sets) {
      for (const role of wanted) if (!(role in set)) found.push({ path: `${where}.${role}`, message: 'expected the id of a signal, found nothing' });
      for (const [role, id] of Object.entries(set)) {
        if (wanted.includes(role)) refer(`${where}.${role}`, 'signal', id);
        else found.push({ path: `${where}.${role}`, message: `expected none but the signals of a ${control.kind} (${wanted.join(', ') || 'none'}), found one more` });
      }
    }
    if ((control.banks?.length ?? 0) > Math.max(0, (surface.banks?.length ?? 0) - 1)) found.push({ path: `${at}.banks`, message: `expected no more banks than the surface has, found ${control.banks!.length + 1}` });
    if (control.kind === 'keys' && (control.high < control.low || control.high - control.low >= LIMITS_OF_CONTROLS.keys)) {
      found.push({ path: `${at}.high`, message: `expected a note from low to ${LIMITS_OF_CONTROLS.keys - 1} above it, found ${control.high}` });
    }
    if ('shows' in control && control.shows !== null) refer(`${at}.shows`, 'signal', control.shows);
    if (control.kind === 'scene' && control.scene !== null) refer(`${at}.scene`, 'scene', control.scene);
    if (control.kind === 'page' && control.page !== null && !surface.pages.some(({ id }) => id === control.page)) {
      found.push({ path: `${at}.page`, message: `expected the id of a page of this surface, found "${control.page}"` });
    }
    if (control.kind === 'fold') checkControls(`${at}.controls`, control.controls, surface, refer, found, ids);
  });
}

/** The signals of a control, as pairs of role and id. */
export function controlSignals(control: RigControl): [role: string, signal: string][] {
  return Object.entries(control.signals);
}

function uniqueIds(path: string, things: readonly { id: string }[], found: DanglingReference[], ids = new Set<string>()): Set<string> {
  things.forEach(({ id }, i) => {
    if (ids.has(id)) found.push({ path: `${path}[${i}].id`, message: `expected an id used once, found "${id}" again` });
    ids.add(id);
  });
  return ids;
}
