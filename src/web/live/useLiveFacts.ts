import { useCallback, useSyncExternalStore } from 'react';
import type { Activity, FeedState, InputsState, InTurn, OutputsState, Turned } from '../../protocol/live';
import type { PlayingState, RecordingState } from '../../protocol/takes';
import type { MemberShown, TransportState } from '../../protocol/transport';
import type { LiveConnection } from './connection';
import type { LineStatus } from './line';
import { lineInWords } from './lineWords';
import { useLive } from './LiveProvider';
import type { Slot } from './slots';
import type { MappingState } from './store';

/** A part of what stands in a slot; on the server, and until the page has taken over what it drew, what the slot began with. */
function useSlot<T, Part>(slotOf: (live: LiveConnection) => Slot<T>, part: (value: T) => Part): Part {
  const slot = slotOf(useLive());
  const subscribe = useCallback((listener: () => void) => slot.listen(listener), [slot]);
  return useSyncExternalStore(
    subscribe,
    () => part(slot.value),
    () => part(slot.first),
  );
}

const NO_STATES: ReadonlyMap<string, MappingState> = new Map();
const whole = <T>(value: T) => value;

export const useLineStatus = (): LineStatus => useSlot((live) => live.state, ({ status }) => status);
/** What the page says of its line; empty while it is up. */
export function useLineWords(): string {
  const { status, waitsFor } = useSlot((live) => live.state, whole);
  return lineInWords(status, waitsFor, typeof location === 'undefined' ? '' : location.hostname);
}
/** The rig that plays and its revision, as one text that changes with either; empty before the hub said so. */
export const usePlayedRig = (): string => useSlot(({ store }) => store.rig, ({ id, revision }) => (id === '' ? '' : `${id} ${revision}`));
export const useLiveStage = (): boolean => useSlot(({ store }) => store.rig, ({ stage }) => stage);
/** The page and bank that a scene turned this surface to. */
export const useTurned = (): Turned => useSlot(({ store }) => store.turned, whole);
export const useActivity = (): Activity => useSlot(({ store }) => store.activity, whole);
export const usePlaying = (): Record<string, number> => useSlot(({ store }) => store.surfaces, ({ playing }) => playing);
/** The joined devices that are there, by id. */
export const usePresentDevices = (): readonly string[] => useSlot(({ store }) => store.surfaces, ({ devices }) => devices);
export const useGiven = (): string | null | undefined => useSlot(({ store }) => store.given, whole);
/** How inputs are: rates and times in it are others each second, so a screen asks for all of it only where little is drawn. */
export const useInputsState = (): InputsState | null => useSlot(({ store }) => store.inputs, whole);
/** A part of how inputs are; what did not change in it is the same object as before. */
export const useInputs = <Part>(part: (state: InputsState | null) => Part): Part => useSlot(({ store }) => store.inputs, part);
/** What is said of what stands behind an input of the rig, as a text; of several the one that is there. */
export const useFeedWords = (input: string, words: (feed: FeedState | undefined) => string): string =>
  useInputs((state) => words(state?.feeds.filter((feed) => feed.input === input).sort((a, b) => Number(a.state === 'gone') - Number(b.state === 'gone'))[0]));
export const useOutputsState = (): OutputsState | null => useSlot(({ store }) => store.outputs, whole);
export const useRecording = (): RecordingState | null => useSlot(({ store }) => store.recording, whole);
/** The take that is being recorded, by its id. */
export const useRecordedTake = (): string | null => useSlot(({ store }) => store.recording, (now) => now?.take ?? null);
/** Whether a take is being recorded, or is counted in. */
export const useIsRecordBusy = (): boolean => useSlot(({ store }) => store.recording, (now) => now !== null && (now.take !== null || now.counting !== null));
/** What stands in the way of recording, in a sentence. */
export const useRecordingProblem = (): string | null => useSlot(({ store }) => store.recording, (now) => now?.problem ?? null);
export const usePlayingTake = (): PlayingState | null => useSlot(({ store }) => store.playing, whole);
export const useIntroducing = (): string | null => useSlot(({ store }) => store.introducing, (now) => now?.mapping ?? null);
export const useInTurn = (): InTurn | null => useSlot(({ store }) => store.introducing, (now) => now?.inTurn ?? null);
export const useHeldBack = (): readonly string[] => useSlot((live) => live.heldBack, whole);
/** What a screen says of one mapping, as a text or a number: only another one has it drawn anew, not each second in which nothing changed. */
export const useMappingState = <Part extends string | number | boolean | undefined>(mapping: string, part: (state: MappingState | undefined) => Part): Part =>
  useSlot(({ store }) => store.mappingStates, ({ byId }) => part(byId.get(mapping)));
/** The mappings that do not send now, as JSON: drawn anew only when they are others. */
export const useNotSending = (): string => useSlot(({ store }) => store.mappingStates, ({ byId }) => JSON.stringify([...byId].filter(([, { sends }]) => !sends).map(([id]) => id)));
/** The states of all mappings: another map each second. */
export const useMappingStates = (): ReadonlyMap<string, MappingState> => useSlot(({ store }) => store.mappingStates, ({ byId }) => byId);
/** The same for whom it matters only at times: while it is not `wanted`, always the same empty one. */
export const useMappingStatesIf = (wanted: boolean): ReadonlyMap<string, MappingState> => useSlot(({ store }) => store.mappingStates, ({ byId }) => (wanted ? byId : NO_STATES));
export const useLastScene = (): string | null => useSlot(({ store }) => store.mappingStates, ({ scene }) => scene);
export const useTransport = (): TransportState | null => useSlot(({ store }) => store.transport, whole);
export const useIsRunning = (): boolean => useSlot(({ store }) => store.transport, (now) => now?.running ?? false);
/** The tempo that is played, to a tenth; null before the hub said so. */
export const usePlayedBpm = (): number | null => useSlot(({ store }) => store.transport, (now) => now && Number(now.bpm.toFixed(1)));

/** A member of the ensemble changes with every note: what is asked for here are words that change seldom, so that little is drawn anew. */
const find = (members: readonly MemberShown[], id: string) => members.find((member) => member.id === id);
/** What a member plays now, as text: the root of its chord and its tones, or the pitches that sound of it. Empty for nothing. */
export const useMemberPlays = (id: string): string =>
  useSlot(({ store }) => store.members, (members) => {
    const { harmony, pitches = [] } = find(members, id) ?? {};
    return harmony ? `chord ${harmony.root} ${harmony.tones.join(' ')}` : pitches.length === 0 ? '' : `notes ${pitches.join(' ')}`;
  });
export const useIsMemberSounding = (id: string): boolean => useSlot(({ store }) => store.members, (members) => (find(members, id)?.pitches.length ?? 0) > 0);
/** The step that a member played last, -1 for none. */
export const useMemberStep = (id: string): number => useSlot(({ store }) => store.members, (members) => find(members, id)?.step ?? -1);
/** By member, as JSON: whether it is on, and whether a chord is heard of it. */
export const useMembersReady = (): string => useSlot(({ store }) => store.members, (members) => JSON.stringify(Object.fromEntries(members.map(({ id, on, harmony }) => [id, { on, chord: harmony !== null }]))));
