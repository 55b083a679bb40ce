import { App } from 'antd';
import { useCallback, useEffect, useRef } from 'react';
import type { RigScene } from '../../../core/rig/document';
import { recallScene } from '../../live/fetchRig';
import { isTyping } from '../../live/isTyping';
import { digitOf } from '../../live/keys';
import { useLive } from '../../live/LiveProvider';
import { useRigStore } from '../../live/RigProvider';
import { useRig } from '../shell/useRig';

/** So many scenes have a number key. */
export const KEYED = 9;
/** A line is known to be lost within this time: what was said before it was answered, or never will be. */
const LOST_MS = 2500;

/**
 * Recalls a scene by its id; as long as it is used, the number keys recall the first nine. On Stage it is said straight by the line, so that what
 * serves the pages need not be there; on the Bench, without a line, and where that is lost before it was done, by a request, which comes after
 * the edits before it and waits for the hub.
 */
export function useRecall(scenes: readonly RigScene[]): (id: string) => void {
  const { message } = App.useApp();
  const live = useLive();
  const store = useRigStore();
  const { stage } = useRig();
  const ask = useCallback(
    (id: string) =>
      void store
        .answeredSoFar()
        .then(() => recallScene(id))
        .catch((error: Error) => message.error(error.message)),
    [message, store],
  );
  /** What was said by the line last, when, and which scene was recalled then. */
  const told = useRef<{ id: string; atMs: number; before: string | null } | null>(null);
  const recall = useCallback(
    (id: string) => {
      const before = live.store.mappingStates.value.scene;
      if (stage && live.tellNow({ kind: 'recall', scene: id })) told.current = { id, atMs: performance.now(), before };
      else ask(id);
    },
    [ask, live, stage],
  );
  useEffect(
    () =>
      live.state.listen(() => {
        const last = told.current;
        if (live.state.value.status !== 'lost' || last === null) return;
        told.current = null;
        const isDone = last.id !== last.before && live.store.mappingStates.value.scene === last.id;
        if (!isDone && performance.now() - last.atMs < LOST_MS) ask(last.id);
      }),
    [ask, live],
  );
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const scene = scenes[(digitOf(event) ?? 0) - 1];
      if (scene) recall(scene.id);
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [scenes, recall]);
  return recall;
}
