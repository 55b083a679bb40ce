import { App } from 'antd';
import { useCallback, useEffect } from 'react';
import type { RigScene } from '../../../core/rig/document';
import { recallScene } from '../../live/fetchRig';
import { isTyping } from '../../live/isTyping';

/** So many scenes have a number key. */
export const KEYED = 9;

/** Recalls a scene by its id; as long as it is used, the number keys recall the first nine. */
export function useRecall(scenes: readonly RigScene[]): (id: string) => void {
  const { message } = App.useApp();
  const recall = useCallback((id: string) => void recallScene(id).catch((error: Error) => message.error(error.message)), [message]);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const scene = /^[1-9]$/.test(event.key) ? scenes[Number(event.key) - 1] : undefined;
      if (scene) recall(scene.id);
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [scenes, recall]);
  return recall;
}
