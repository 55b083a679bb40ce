import { TRANSPORT_ACTIONS } from '../messages/transport';
import type { RigDocument, RigScene } from './document';
import type { Change } from './edit';
import { freeId, freeName } from './naming';
import { remove } from './remove';

/** What a scene does to the transport: `startStop` starts it where it stands and stops it where it runs, `tap` taps its tempo. */
export const SCENE_TRANSPORTS = [...TRANSPORT_ACTIONS, 'startStop', 'tap'] as const;
export type SceneTransport = (typeof SCENE_TRANSPORTS)[number];

/** What a gate may do to the transport by a scene that holds nothing else, and what such a scene is called. */
export const BY_GATE = { tap: 'Tap the tempo', startStop: 'Start and stop' } as const;

/** The scene by which a gate does this and no more. */
export function gateScene(rig: RigDocument, does: keyof typeof BY_GATE): RigScene | undefined {
  const isEmpty = (part: object | undefined) => part === undefined || Object.keys(part).length === 0;
  return rig.scenes.find((scene) => scene.transport === does && scene.recalledBy !== undefined && scene.messages.length === 0 && [scene.mappings, scene.voiceMappings, scene.members, scene.alone, scene.pages, scene.banks, scene.values].every(isEmpty));
}

/** Lets a gate do this from now on; with null none does. */
export function withGate(rig: RigDocument, does: keyof typeof BY_GATE, signal: string | null): Change[] {
  const known = gateScene(rig, does);
  if (signal === null) return known ? remove(rig, [{ kind: 'scene', id: known.id }]) : [];
  if (known) return [{ list: 'scenes', id: known.id, to: { ...known, recalledBy: { signal } } }];
  const id = freeId(BY_GATE[does], new Set(rig.scenes.map((scene) => scene.id)));
  const name = freeName(BY_GATE[does], rig.scenes.map((scene) => scene.name));
  return [{ list: 'scenes', id, to: { id, name, mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0, transport: does, recalledBy: { signal } } }];
}
