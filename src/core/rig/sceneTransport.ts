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

/** Whether a scene does something to the transport and nothing else: then it is no state that another would follow. */
export function isTransportAlone({ transport, mappings, voiceMappings, members, alone, pages, banks, values, messages }: RigScene): boolean {
  const isEmpty = (part: object | undefined) => part === undefined || Object.keys(part).length === 0;
  return transport !== undefined && [mappings, voiceMappings, members, alone, pages, banks, values, messages].every(isEmpty);
}

/** The scene by which a gate does this and no more. */
export const gateScene = (rig: RigDocument, does: keyof typeof BY_GATE): RigScene | undefined => rig.scenes.find((scene) => scene.transport === does && scene.recalledBy !== undefined && isTransportAlone(scene));

/** Lets a gate do this from now on; with null none does. */
export function withGate(rig: RigDocument, does: keyof typeof BY_GATE, signal: string | null): Change[] {
  const known = gateScene(rig, does);
  if (signal === null) return known ? remove(rig, [{ kind: 'scene', id: known.id }]) : [];
  if (known) return [{ list: 'scenes', id: known.id, to: { ...known, recalledBy: { signal } } }];
  const id = freeId(BY_GATE[does], new Set(rig.scenes.map((scene) => scene.id)));
  const name = freeName(BY_GATE[does], rig.scenes.map((scene) => scene.name));
  return [{ list: 'scenes', id, to: { id, name, mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0, transport: does, recalledBy: { signal } } }];
}
