import type { RigDocument } from '../../core/rig/document';
import type { RigEdit } from '../../core/rig/edit';
import type { JoinCode, JoinedDevice, Joining, JoinRequest } from '../../protocol/devices';
import type { InputSettings } from '../../protocol/inputSettings';
import type { HandsProfile } from '../../core/hands/profile';
import type { ListeningProfiles } from '../../protocol/listeningProfiles';
import type { NetworkSettings } from '../../protocol/networkSettings';
import type { RecordSettings } from '../../protocol/recordSettings';
import type { KeptRecipes } from '../../protocol/takesSchema';
import type { LibraryContent, LibraryEntry, LibraryLine } from '../../protocol/library';
import type { EditMaker, MadeEdit, RigStanding } from '../../protocol/madeEdit';
import type { PlayedSurface } from '../../protocol/playedSurface';
import type { Problem } from '../../protocol/problem';
import type { RigPreview } from '../../protocol/rigPreview';
import type { TakenRecording } from '../../protocol/recording';

/** The open rig as the web process answers it. */
export interface RigAnswer extends RigStanding {
  document: RigDocument;
  stage: boolean;
}

/** A request that the server refused, with its reason in words for a person. */
export class RefusedError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message);
  }
}

export function fetchRig(): Promise<RigAnswer> {
  return ask('/api/rig');
}

/** `basedOn` is the latest revision that this window had seen when the edit was made. */
export function postEdit(rigId: string, edit: RigEdit, by: EditMaker, basedOn: number): Promise<MadeEdit> {
  return ask(`/api/rigs/${encodeURIComponent(rigId)}/edits`, { edit, ...by, basedOn });
}

export function postStep(rigId: string, way: 'undo' | 'redo'): Promise<MadeEdit | RigStanding> {
  return ask(`/api/rigs/${encodeURIComponent(rigId)}/${way}`, {});
}

export function postStage(stage: boolean): Promise<RigAnswer> {
  return ask('/api/stage', { stage });
}

export function recallScene(sceneId: string): Promise<unknown> {
  return ask(`/api/scenes/${encodeURIComponent(sceneId)}/recall`, {});
}

/** A stored rig, as the list has it. */
export interface RigLine {
  id: string;
  name: string;
  revision: number;
  savedAtMs: number;
}

export function fetchRigs(): Promise<RigLine[]> {
  return ask('/api/rigs');
}

export function fetchDocument(rigId: string): Promise<RigDocument> {
  return ask(`/api/rigs/${encodeURIComponent(rigId)}/document`);
}

export function fetchHistory(rigId: string): Promise<{ number: number; madeAtMs: number; words: string; takenBack: boolean }[]> {
  return ask(`/api/rigs/${encodeURIComponent(rigId)}/history`);
}

export function openRig(rigId: string): Promise<RigAnswer> {
  return ask(`/api/rigs/${encodeURIComponent(rigId)}/open`, {});
}

export function takeRig(document: unknown): Promise<{ id: string }> {
  return ask('/api/rigs', document);
}

export function checkRigFile(document: unknown): Promise<RigPreview> {
  return ask('/api/rigs/check', document);
}

export function deleteRig(rigId: string): Promise<RigDocument> {
  return ask(`/api/rigs/${encodeURIComponent(rigId)}`, {}, 'DELETE');
}

export function fetchLibrary(): Promise<LibraryLine[]> {
  return ask('/api/library');
}

export function fetchKept(id: string): Promise<LibraryEntry> {
  return ask(`/api/library/${encodeURIComponent(id)}`);
}

export function keepInLibrary(name: string, content: LibraryContent): Promise<LibraryEntry> {
  return ask('/api/library', { name, ...content });
}

export function deleteKept(id: string): Promise<LibraryEntry> {
  return ask(`/api/library/${encodeURIComponent(id)}`, {}, 'DELETE');
}

export function fetchInputSettings(): Promise<InputSettings> {
  return ask('/api/settings/inputs');
}

export function putInputSettings(settings: InputSettings): Promise<InputSettings> {
  return ask('/api/settings/inputs', settings, 'PUT');
}

export function fetchListening(): Promise<ListeningProfiles> {
  return ask('/api/settings/listening');
}

export function putListening(profiles: ListeningProfiles): Promise<ListeningProfiles> {
  return ask('/api/settings/listening', profiles, 'PUT');
}

export function fetchHands(): Promise<HandsProfile> {
  return ask('/api/settings/hands');
}

export function putHands(profile: HandsProfile): Promise<HandsProfile> {
  return ask('/api/settings/hands', profile, 'PUT');
}

export function fetchRecordSettings(): Promise<RecordSettings> {
  return ask('/api/settings/recording');
}

export function putRecordSettings(settings: RecordSettings): Promise<RecordSettings> {
  return ask('/api/settings/recording', settings, 'PUT');
}

export function fetchRecipes(): Promise<KeptRecipes> {
  return ask('/api/settings/recipes');
}

export function putRecipes(recipes: KeptRecipes): Promise<KeptRecipes> {
  return ask('/api/settings/recipes', recipes, 'PUT');
}

export function fetchNetworkSettings(): Promise<NetworkSettings> {
  return ask('/api/settings/network');
}

export function putNetworkSettings(settings: NetworkSettings): Promise<NetworkSettings> {
  return ask('/api/settings/network', settings, 'PUT');
}

export function postRecording(name: string, text: string): Promise<TakenRecording> {
  return send(`/api/recordings?name=${encodeURIComponent(name)}`, { method: 'POST', headers: { 'content-type': 'text/plain' }, body: text });
}

export function fetchSurface(id: string): Promise<PlayedSurface> {
  return ask(`/api/surfaces/${encodeURIComponent(id)}`);
}

export function fetchJoining(): Promise<Joining> {
  return ask('/api/joining');
}

export function putLan(on: boolean): Promise<Joining> {
  return ask('/api/joining', { on }, 'PUT');
}

export function fetchValues(): Promise<Record<string, number>> {
  return ask('/api/values');
}

export function postCode(surface: string | null, admits: number): Promise<JoinCode> {
  return ask('/api/joining/code', { surface, admits });
}

export function patchDevice(id: string, set: { name?: string; surface?: string | null }): Promise<{ devices: JoinedDevice[] }> {
  return ask(`/api/devices/${encodeURIComponent(id)}`, set, 'PATCH');
}

export function dropDevice(id: string): Promise<{ devices: JoinedDevice[] }> {
  return ask(`/api/devices/${encodeURIComponent(id)}`, {}, 'DELETE');
}

export function postJoin(request: JoinRequest): Promise<{ name: string; page: string }> {
  return ask('/api/join', request);
}

export function ask<T = RigAnswer>(path: string, body?: unknown, method = 'POST'): Promise<T> {
  return send(path, body === undefined ? {} : { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
}

const NO_ANSWER = 'Pumice does not answer now: try again in a moment.';

/** Rejects with a sentence: why it was refused, or that nobody answered (what the browser says of that is for nobody's eyes). */
export async function send<T>(path: string, init: RequestInit): Promise<T> {
  const answer = (await fetch(path, init)
    .then((response) => response.json())
    .catch(() => {
      throw new Error(NO_ANSWER);
    })) as object;
  if ('problem' in answer) throw new RefusedError(answer.problem as Problem);
  return answer as T;
}
