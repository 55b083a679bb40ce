import type { Amount, Formula, MessageSpec, RigControl, RigDerived, RigInput, RigMapping, RigScene, RigSignal, RigSurface } from './document';

/** New ids by list and old id; what is not in it keeps its id. */
export interface Renaming {
  inputs: ReadonlyMap<string, string>;
  /** Of signals and derived signals: they share their ids. */
  signals: ReadonlyMap<string, string>;
  mappings: ReadonlyMap<string, string>;
  outputs: ReadonlyMap<string, string>;
  receivers: ReadonlyMap<string, string>;
  surfaces: ReadonlyMap<string, string>;
  scenes: ReadonlyMap<string, string>;
}

const to = (names: ReadonlyMap<string, string>, id: string) => names.get(id) ?? id;

export function renameInput(input: RigInput, names: Renaming): RigInput {
  const id = to(names.inputs, input.id);
  if (input.kind === 'surface') return { ...input, id, surface: to(names.surfaces, input.surface) };
  if (input.kind === 'midi' && input.thru) return { ...input, id, thru: { ...input.thru, output: to(names.outputs, input.thru.output) } };
  return { ...input, id };
}

export function renameSignal(signal: RigSignal, names: Renaming): RigSignal {
  const renamed = { ...signal, id: to(names.signals, signal.id), input: to(names.inputs, signal.input) };
  if (signal.pair !== undefined) renamed.pair = to(names.signals, signal.pair);
  if (signal.returns) renamed.returns = { ...signal.returns, released: to(names.signals, signal.returns.released) };
  return renamed;
}

export function renameDerived(derived: RigDerived, names: Renaming): RigDerived {
  return { ...derived, id: to(names.signals, derived.id), formula: renameFormula(derived.formula, names.signals) };
}

function renameFormula(formula: Formula, signals: ReadonlyMap<string, string>): Formula {
  const all = (ids: readonly string[]) => ids.map((id) => to(signals, id));
  const amount = (value: Amount): Amount => (typeof value === 'number' ? value : { signal: to(signals, value.signal) });
  switch (formula.op) {
    case 'distance':
      return { ...formula, from: all(formula.from), to: all(formula.to) };
    case 'tilt':
      return { ...formula, of: all(formula.of) as [string, string, string] };
    case 'speed':
    case 'accumulate':
    case 'envelope':
      return { ...formula, of: to(signals, formula.of) };
    case 'hold':
      return { ...formula, of: to(signals, formula.of), gate: to(signals, formula.gate) };
    case 'oscillator':
      return { ...formula, rateHz: amount(formula.rateHz), depth: amount(formula.depth) };
    case 'constant':
      return formula;
    default:
      return { ...formula, of: all(formula.of) };
  }
}

export function renameMapping(mapping: RigMapping, names: Renaming): RigMapping {
  return {
    ...mapping,
    id: to(names.mappings, mapping.id),
    signal: to(names.signals, mapping.signal),
    output: to(names.outputs, mapping.output),
    message: renameMessage(mapping.message, names),
  };
}

function renameMessage(message: MessageSpec, { signals, mappings }: Renaming): MessageSpec {
  if (message.kind === 'polyPressure' && typeof message.note === 'object') return { ...message, note: { of: to(mappings, message.note.of) } };
  if (message.kind === 'relative' && message.fine) return { ...message, fine: { ...message.fine, signal: to(signals, message.fine.signal) } };
  if (message.kind === 'note' && message.repeat && 'rateHz' in message.repeat && typeof message.repeat.rateHz === 'object') {
    return { ...message, repeat: { rateHz: { signal: to(signals, message.repeat.rateHz.signal) } } };
  }
  return message;
}

export function renameSurface(surface: RigSurface, names: Renaming): RigSurface {
  const signals = (set: Record<string, string>) => Object.fromEntries(Object.entries(set).map(([role, id]) => [role, to(names.signals, id)]));
  const control = (one: RigControl): RigControl => {
    const renamed: RigControl = { ...one, signals: signals(one.signals), ...(one.banks ? { banks: one.banks.map(signals) } : {}) };
    if ('shows' in renamed && renamed.shows !== null) return { ...renamed, shows: to(names.signals, renamed.shows) };
    if (renamed.kind === 'scene' && renamed.scene !== null) return { ...renamed, scene: to(names.scenes, renamed.scene) };
    return renamed.kind === 'fold' ? { ...renamed, controls: renamed.controls.map(control) } : renamed;
  };
  return { ...surface, id: to(names.surfaces, surface.id), pages: surface.pages.map((page) => ({ ...page, controls: page.controls.map(control) })) };
}

export function renameScene(scene: RigScene, names: Renaming): RigScene {
  const keys = <T>(record: Record<string, T>, by: ReadonlyMap<string, string>) => Object.fromEntries(Object.entries(record).map(([key, value]) => [to(by, key), value]));
  return {
    ...scene,
    id: to(names.scenes, scene.id),
    mappings: keys(scene.mappings, names.mappings),
    pages: keys(scene.pages, names.surfaces),
    ...(scene.banks ? { banks: keys(scene.banks, names.surfaces) } : {}),
    values: keys(scene.values, names.signals),
    messages: scene.messages.map((message) => ({ ...message, output: to(names.outputs, message.output) })),
    ...(scene.recalledBy ? { recalledBy: { ...scene.recalledBy, signal: to(names.signals, scene.recalledBy.signal) } } : {}),
  };
}
