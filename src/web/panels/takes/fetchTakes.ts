import type { MapperChange } from '../../../core/takes/changes';
import type { PlaybackOptions } from '../../../core/takes/playback';
import type { TidyStep } from '../../../core/takes/tidy';
import type { Mark } from '../../../core/takes/take';
import type { TakeDetail, TakeSummary, TakeVersion } from '../../../protocol/takes';
import { ask, send } from '../../live/fetchRig';

const path = (...parts: string[]) => `/api/takes${parts.map((part) => `/${encodeURIComponent(part)}`).join('')}`;

export const fetchTakes = (): Promise<TakeSummary[]> => ask(path());
export const fetchTake = (id: string): Promise<TakeDetail> => ask(path(id));
export const patchTake = (id: string, set: { name?: string; marks?: Mark[] }): Promise<TakeSummary> => ask(path(id), set, 'PATCH');
export const deleteTake = (id: string): Promise<object> => ask(path(id), {}, 'DELETE');
export const fetchChanges = (id: string, rig: string): Promise<MapperChange[]> => ask(`${path(id, 'changes')}?${new URLSearchParams({ rig }).toString()}`);
export const renderTake = (id: string, asked: { rig?: string; name?: string; only?: string[] }): Promise<TakeDetail> => ask(path(id, 'render'), asked);
export const playThroughVoices = (id: string, stream: string): Promise<TakeSummary> => ask(path(id, 'voices'), { stream });
export const stopRendering = (id: string): Promise<object> => ask(path(id, 'render'), {}, 'DELETE');
export const patchVersion = (id: string, version: string, set: { name?: string; recipe?: TidyStep[] }): Promise<TakeVersion> => ask(path(id, 'versions', version), set, 'PATCH');
export const deleteVersion = (id: string, version: string): Promise<object> => ask(path(id, 'versions', version), {}, 'DELETE');
export const playTake = (id: string, version: string, options: Partial<PlaybackOptions>): Promise<object> => ask(path(id, 'versions', version, 'play'), options);
export const stopTake = (): Promise<object> => ask(path('playing'), {}, 'DELETE');
export const scoreUrl = (id: string, version: string): string => path(id, 'versions', version, 'score');
export const logUrl = (id: string): string => path(id, 'log');
export const fileUrl = (id: string, version: string, as: string, line?: string): string => `${path(id, 'versions', version, 'file')}?${new URLSearchParams({ as, ...(line !== undefined && { line }) }).toString()}`;

/** Takes a file in: a MIDI file, recorded signals, or a take of another Pumice, told apart by what is in it. */
export async function takeIn(file: File): Promise<{ take: TakeSummary; remarks: string[] }> {
  return send(`${path()}?${new URLSearchParams({ name: file.name }).toString()}`, { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: file });
}
