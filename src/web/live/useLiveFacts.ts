import { useCallback, useSyncExternalStore } from 'react';
import type { Activity, InputsState } from '../../protocol/live';
import type { Change, LineStatus, LiveConnection, MappingState } from './connection';
import { lineInWords } from './lineWords';
import { useLive } from './LiveProvider';

function useChanging<T>(what: Change, read: (live: LiveConnection) => T, onServer: T): T {
  const live = useLive();
  const subscribe = useCallback((listener: () => void) => live.onChange(what, listener), [live, what]);
  return useSyncExternalStore(
    subscribe,
    () => read(live),
    () => onServer,
  );
}

export const useLineStatus = (): LineStatus => useChanging('status', (live) => live.status, 'connecting');
/** What the page says of its line; empty while it is up. */
export function useLineWords(): string {
  const status = useLineStatus();
  const waitsFor = useChanging('status', (live) => live.waitsFor, null);
  return lineInWords(status, waitsFor, typeof location === 'undefined' ? '' : location.hostname);
}
/** The rig that plays and its revision, as one text that changes with either; empty before the hub said so. */
export const usePlayedRig = (): string => useChanging('rig', (live) => (live.rigId === '' ? '' : `${live.rigId} ${live.revision}`), '');
export const useLiveStage = (): boolean => useChanging('rig', (live) => live.stage, false);
/** The page and bank that a scene turned this surface to. */
export const useTurned = (): { page?: string; bank?: number } => useChanging('page', (live) => live.turned, UNTURNED);
export const useActivity = (): Activity => useChanging('activity', (live) => live.activity, QUIET);
export const usePlaying = (): Record<string, number> => useChanging('surfaces', (live) => live.playing, NOBODY);

/** The joined devices that are there, by id. */
export const usePresentDevices = (): readonly string[] => useChanging('surfaces', (live) => live.presentDevices, NONE);
export const useGiven = (): string | null | undefined => useChanging('given', (live) => live.given, undefined);
export const useInputsState = (): InputsState | null => useChanging('inputs', (live) => live.inputs, null);
export const useIntroducing = (): string | null => useChanging('introducing', (live) => live.introducing, null);
export const useHeldBack = (): readonly string[] => useChanging('heldBack', (live) => live.heldBack, NONE);
export const useMappingStates = (): ReadonlyMap<string, MappingState> => useChanging('mappingStates', (live) => live.mappingStates, UNKNOWN);
export const useLastScene = (): string | null => useChanging('mappingStates', (live) => live.scene, null);

const UNKNOWN: ReadonlyMap<string, MappingState> = new Map();
const UNTURNED = {};
const NONE: readonly string[] = [];
const QUIET: Activity = { in: 0, out: 0, delayP50Ms: null, delayP99Ms: null };
const NOBODY: Record<string, number> = {};
