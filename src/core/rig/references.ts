import { derivedOrder, sourcesOf } from '../signal/order';
import type { MessageSpec, RigControl, RigDocument } from './document';

export interface DanglingReference {
  /** Path in the document, as `mappings[3].signal`. */
  path: string;
  message: string;
}

type Kind = 'input' | 'signal' | 'mapping' | 'receiver' | 'output' | 'surface' | 'page';

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
  };
  uniqueIds('scenes', rig.scenes, found);
  rig.derived.forEach(({ id }, i) => {
    if (ids.signal.has(id)) found.push({ path: `derived[${i}].id`, message: `expected an id used once, found "${id}" again` });
    ids.signal.add(id);
  });
  const refer = (path: string, kind: Kind, id: string) => {
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
  });
  rig.surfaces.forEach((surface, s) => {
    uniqueIds(`surfaces[${s}].pages`, surface.pages, found);
    surface.pages.forEach((page, p) => {
      const at = `surfaces[${s}].pages[${p}].controls`;
      uniqueIds(at, page.controls, found);
      page.controls.forEach((control, c) => {
        for (const [role, id] of controlSignals(control)) refer(`${at}[${c}].signals.${role}`, 'signal', id);
      });
    });
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

function referMessage(path: string, message: MessageSpec, refer: (path: string, kind: Kind, id: string) => void): void {
  if (message.kind === 'polyPressure' && typeof message.note === 'object') refer(`${path}.note.of`, 'mapping', message.note.of);
  if (message.kind === 'relative' && message.fine) refer(`${path}.fine.signal`, 'signal', message.fine.signal);
  if (message.kind === 'note' && message.repeat && 'rateHz' in message.repeat && typeof message.repeat.rateHz === 'object') {
    refer(`${path}.repeat.rateHz.signal`, 'signal', message.repeat.rateHz.signal);
  }
}

/** The signals of a control, as pairs of role and id. */
export function controlSignals(control: RigControl): [role: string, signal: string][] {
  return Object.entries(control.signals);
}

function uniqueIds(path: string, things: { id: string }[], found: DanglingReference[]): Set<string> {
  const ids = new Set<string>();
  things.forEach(({ id }, i) => {
    if (ids.has(id)) found.push({ path: `${path}[${i}].id`, message: `expected an id used once, found "${id}" again` });
    ids.add(id);
  });
  return ids;
}
