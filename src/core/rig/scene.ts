import type { RigDocument, RigScene } from './document';
import type { Change } from './edit';
import { freeId, freeName } from './naming';

/** What a scene would change now: mappings that go on or off, values that move, pages that turn, messages that are sent. */
export interface SceneDifference {
  on: string[];
  off: string[];
  moved: { signal: string; from: number | null; to: number }[];
  pages: number;
  messages: number;
  transport: RigScene['transport'] | null;
}

/** The present state of a rig as a scene: which mappings are on, and where the controls of its surfaces stand. */
export function takeScene(rig: RigDocument, name: string, values: Readonly<Record<string, number>>): { change: Change; id: string } {
  const id = freeId(name, new Set(rig.scenes.map((scene) => scene.id)));
  const scene: RigScene = {
    id,
    name: freeName(name, rig.scenes.map((other) => other.name)),
    mappings: Object.fromEntries(rig.mappings.map((mapping) => [mapping.id, mapping.on])),
    ...(rig.voiceMappings.length > 0 ? { voiceMappings: Object.fromEntries(rig.voiceMappings.map((mapping) => [mapping.id, mapping.on])) } : {}),
    ...(rig.members.length > 0 ? { members: Object.fromEntries(rig.members.map((member) => [member.id, member.on])) } : {}),
    pages: {},
    values: controlValues(rig, values),
    messages: [],
    glideMs: 0,
  };
  return { change: { list: 'scenes', id, to: scene }, id };
}

/** Where the controls of the surfaces stand, of all `values` that are known. */
export function controlValues(rig: RigDocument, values: Readonly<Record<string, number>>): Record<string, number> {
  const surfaces = new Set(rig.inputs.flatMap((input) => (input.kind === 'surface' ? [input.id] : [])));
  const held = rig.signals.flatMap((signal): [string, number][] => {
    const value = values[signal.id];
    return signal.kind === 'continuous' && surfaces.has(signal.input) && value !== undefined ? [[signal.id, value]] : [];
  });
  return Object.fromEntries(held);
}

/** What recalling a scene would change. `on` says which mappings send now, by id; absent: as the document says. */
export function sceneDifference(rig: RigDocument, scene: RigScene, values: Readonly<Record<string, number>>): SceneDifference {
  const all = [...rig.mappings, ...rig.voiceMappings, ...rig.members];
  const turned = (to: boolean) =>
    Object.entries({ ...scene.mappings, ...scene.voiceMappings, ...scene.members }).flatMap(([id, on]) => {
      const mapping = all.find((candidate) => candidate.id === id);
      return on === to && mapping?.on !== to ? [mapping?.name ?? id] : [];
    });
  return {
    on: turned(true),
    off: turned(false),
    moved: Object.entries(scene.values).flatMap(([signal, to]) => (values[signal] === to ? [] : [{ signal, from: values[signal] ?? null, to }])),
    pages: Object.keys(scene.pages).length,
    messages: scene.messages.length,
    transport: scene.transport ?? null,
  };
}
