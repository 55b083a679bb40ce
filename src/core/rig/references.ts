import type { RigControl, RigDocument } from './document';

export interface DanglingReference {
  /** Path in the document, as `mappings[3].signal`. */
  path: string;
  message: string;
}

/** Ids that point nowhere or stand twice, all of them, each with its path. */
export function checkReferences(rig: RigDocument): DanglingReference[] {
  const found: DanglingReference[] = [];
  const ids = {
    input: uniqueIds('inputs', rig.inputs, found),
    signal: uniqueIds('signals', rig.signals, found),
    receiver: uniqueIds('receivers', rig.receivers, found),
    output: uniqueIds('outputs', rig.outputs, found),
    surface: uniqueIds('surfaces', rig.surfaces, found),
  };
  uniqueIds('mappings', rig.mappings, found);
  const refer = (path: string, kind: keyof typeof ids, id: string) => {
    if (!ids[kind].has(id)) found.push({ path, message: `expected the id of ${kind === 'input' || kind === 'output' ? 'an' : 'a'} ${kind} of this rig, found "${id}"` });
  };

  rig.inputs.forEach((input, i) => refer(`inputs[${i}].surface`, 'surface', input.surface));
  rig.signals.forEach((signal, i) => refer(`signals[${i}].input`, 'input', signal.input));
  rig.outputs.forEach((output, i) => refer(`outputs[${i}].receiver`, 'receiver', output.receiver));
  rig.mappings.forEach((mapping, i) => {
    refer(`mappings[${i}].signal`, 'signal', mapping.signal);
    refer(`mappings[${i}].output`, 'output', mapping.output);
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
  return found;
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
