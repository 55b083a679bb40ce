import { App } from 'antd';
import { useCallback, useEffect } from 'react';
import type { RigScene } from '../../../core/rig/document';
import { recallScene } from '../../live/fetchRig';
import { isTyping } from '../../live/isTyping';
import { digitOf } from '../../live/keys';
import { useLive } from '../../live/LiveProvider';
import { useRigStore } from '../../live/RigProvider';
import { useRig } from '../shell/useRig';

/** So many scenes have a number key. */
export const KEYED = 9;

/**
 * Recalls a scene by its id; as long as it is used, the number keys recall the first nine. On Stage it is said straight by the line, so that what
 * serves the pages need not be there; on the Bench, and without a line, by a request, which comes after the edits before it and waits for the hub.
 */
export function useRecall(scenes: readonly RigScene[]): (id: string) => void {
  const { message } = App.useApp();
  const live = useLive();
  const store = useRigStore();
  const { stage } = useRig();
  const recall = useCallback(
    (id: string) => {
      if (stage && live.status === 'open') return void live.recall(id);
      void store
        .answeredSoFar()
        .then(() => recallScene(id))
        .catch((error: Error) => message.error(error.message));
    },
    [live, message, stage, store],
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
