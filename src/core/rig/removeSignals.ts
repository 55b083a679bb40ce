import { withControls } from '../surface/controls';
import { sourcesOf } from '../signal/order';
import type { MessageSpec, RigDocument } from './document';
import { applyEdit, type Change } from './edit';

/** What to change so that an input is gone with everything that hangs on it; one that is a surface takes the surface along. */
export function removeInput(rig: RigDocument, input: string): Change[] {
  const signals = rig.signals.flatMap((signal) => (signal.input === input ? [signal.id] : []));
  const gone = rig.inputs.find(({ id }) => id === input);
  const changes = removeSignals(rig, signals);
  if (gone?.kind !== 'surface') return [...changes, { list: 'inputs', id: input, to: null }];
  const without = <T>(record: Record<string, T>) => Object.fromEntries(Object.entries(record).filter(([id]) => id !== gone.surface));
  const applied = applyEdit(rig, { kind: 'change', changes });
  const scenes = (applied.ok ? applied.document : rig).scenes.flatMap((scene): Change[] => {
    if (!(gone.surface in scene.pages) && !(gone.surface in (scene.banks ?? {}))) return [];
    return [{ list: 'scenes', id: scene.id, to: { ...scene, pages: without(scene.pages), ...(scene.banks ? { banks: without(scene.banks) } : {}) } }];
  });
  return [...changes.filter(({ list, id }) => list !== 'surfaces' || id !== gone.surface), ...scenes, { list: 'inputs', id: input, to: null }, { list: 'surfaces', id: gone.surface, to: null }];
}

/**
 * What to change so that signals, derived or not, are gone with what hangs on them: what is derived from them, the mappings
 * of both, and what scenes say of any of these.
 */
export function removeSignals(rig: RigDocument, signals: readonly string[]): Change[] {
  const gone = new Set(signals);
  // Derived signals of derived signals follow, until no more do.
  for (let before = -1; before !== gone.size; ) {
    before = gone.size;
    for (const { id, formula } of rig.derived) if (sourcesOf(formula).some((source) => gone.has(source))) gone.add(id);
  }
  const mappings = new Set(rig.mappings.flatMap(({ id, signal, message }) => (gone.has(signal) || signalsIn(message).some((used) => gone.has(used)) ? [id] : [])));
  for (const { id, message } of rig.mappings) {
    if (message.kind === 'polyPressure' && typeof message.note === 'object' && mappings.has(message.note.of)) mappings.add(id);
  }
  // A constant or an oscillator that only served what is gone serves nobody now.
  for (const { id, formula } of rig.derived) {
    const users = [
      ...rig.derived.flatMap((other) => (sourcesOf(other.formula).includes(id) ? [gone.has(other.id)] : [])),
      ...rig.mappings.flatMap((mapping) => (mapping.signal === id || signalsIn(mapping.message).includes(id) ? [mappings.has(mapping.id)] : [])),
    ];
    if (sourcesOf(formula).length === 0 && users.length > 0 && users.every(Boolean)) gone.add(id);
  }
  const without = <T>(record: Record<string, T>, ids: ReadonlySet<string>) => Object.fromEntries(Object.entries(record).filter(([id]) => !ids.has(id)));
  const kept = rig.scenes.map(({ recalledBy, ...scene }) => ({
    ...scene,
    mappings: without(scene.mappings, mappings),
    values: without(scene.values, gone),
    ...(recalledBy && !gone.has(recalledBy.signal) ? { recalledBy } : {}),
  }));
  const away = (list: Change['list'], things: readonly { id: string }[], ids: ReadonlySet<string>) =>
    things.flatMap(({ id }) => (ids.has(id) ? [{ list, id, to: null } as Change] : []));
  const pairs = rig.signals.filter(({ id, pair, returns }) => !gone.has(id) && ((pair !== undefined && gone.has(pair)) || (returns && gone.has(returns.released))));
  const surfaces = rig.surfaces.flatMap((surface): Change[] => {
    const to = withControls(surface, (control) => ('shows' in control && control.shows !== null && gone.has(control.shows) ? { ...control, shows: null } : control));
    return to === surface ? [] : [{ list: 'surfaces', id: surface.id, to }];
  });
  return [
    ...surfaces,
    ...kept.flatMap((scene, i): Change[] => (JSON.stringify(scene) === JSON.stringify(rig.scenes[i]) ? [] : [{ list: 'scenes', id: scene.id, to: scene }])),
    ...away('mappings', rig.mappings, mappings),
    ...away('derived', rig.derived, gone),
    ...pairs.map((signal): Change => {
      const to = { ...signal };
      if (to.pair !== undefined && gone.has(to.pair)) delete to.pair;
      if (to.returns && gone.has(to.returns.released)) delete to.returns;
      return { list: 'signals', id: to.id, to };
    }),
    ...away('signals', rig.signals, gone),
  ];
}

/** Signals that a message names besides the one that moves it. */
function signalsIn(message: MessageSpec): string[] {
  if (message.kind === 'relative' && message.fine) return [message.fine.signal];
  if (message.kind === 'note' && message.repeat && 'rateHz' in message.repeat && typeof message.repeat.rateHz === 'object') return [message.repeat.rateHz.signal];
  return [];
}
