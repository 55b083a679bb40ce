import type { RigDocument, RigScene } from './document';
import type { Change } from './edit';
import { freeId, freeName } from './naming';

/** How a rig stands at a moment: scenes may have switched it otherwise than its document says. */
export interface Standing {
  /** Of a mapping, a voice mapping or a member; undefined where that is not known, then it is as the document says. */
  isOn(id: string): boolean | undefined;
  /** The receivers that hear one voice alone. */
  alone: readonly string[];
  /** Where its signals stand, of those that are known. */
  values: Readonly<Record<string, number>>;
}

/** What a scene would change now: mappings and members that go on or off, receivers that hear one voice alone or all, values that move, pages and banks that turn, messages that are sent. */
export interface SceneDifference {
  on: string[];
  off: string[];
  alone: string[];
  together: string[];
  moved: { signal: string; from: number | null; to: number }[];
  pages: number;
  banks: number;
  messages: number;
  transport: RigScene['transport'] | null;
}

/** The present state of a rig as a scene: which mappings are on, and where the controls of its surfaces stand. */
export function takeScene(rig: RigDocument, name: string, { isOn, values }: Standing): { change: Change; id: string } {
  const present = (things: readonly { id: string; on: boolean }[]) => Object.fromEntries(things.map((thing) => [thing.id, isOn(thing.id) ?? thing.on]));
  const id = freeId(name, new Set(rig.scenes.map((scene) => scene.id)));
  const scene: RigScene = {
    id,
    name: freeName(name, rig.scenes.map((other) => other.name)),
    mappings: present(rig.mappings),
    ...(rig.voiceMappings.length > 0 ? { voiceMappings: present(rig.voiceMappings) } : {}),
    ...(rig.members.length > 0 ? { members: present(rig.members) } : {}),
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

/** What recalling a scene would change. */
export function sceneDifference(rig: RigDocument, scene: RigScene, { isOn, alone, values }: Standing): SceneDifference {
  const all = [...rig.mappings, ...rig.voiceMappings, ...rig.members];
  const turned = (to: boolean) =>
    Object.entries({ ...scene.mappings, ...scene.voiceMappings, ...scene.members }).flatMap(([id, on]) => {
      const mapping = all.find((candidate) => candidate.id === id);
      return on === to && (isOn(id) ?? mapping?.on) !== to ? [mapping?.name ?? id] : [];
    });
  const heard = (to: boolean) =>
    Object.entries(scene.alone ?? {}).flatMap(([receiver, on]) => (on === to && alone.includes(receiver) !== to ? [rig.receivers.find(({ id }) => id === receiver)?.name ?? receiver] : []));
  return {
    on: turned(true),
    off: turned(false),
    alone: heard(true),
    together: heard(false),
    moved: Object.entries(scene.values).flatMap(([signal, to]) => (values[signal] === to ? [] : [{ signal, from: values[signal] ?? null, to }])),
    pages: Object.keys(scene.pages).length,
    banks: Object.keys(scene.banks ?? {}).length,
    messages: scene.messages.length,
    transport: scene.transport ?? null,
  };
}
