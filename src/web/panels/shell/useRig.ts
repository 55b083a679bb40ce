import { useMutation } from '@tanstack/react-query';
import { App } from 'antd';
import { useCallback, useEffect, useSyncExternalStore } from 'react';
import type { RigEdit } from '../../../core/rig/edit';
import { postStage, RefusedError, type RigAnswer } from '../../live/fetchRig';
import { useRigStore } from '../../live/RigProvider';

/** The open rig, with what was edited here a moment ago. */
export function useRig(): RigAnswer {
  const store = useRigStore();
  return useSyncExternalStore(store.subscribe, store.current, store.current);
}

/** The open rig as it is at the moment of asking, for what is done twice before anything is drawn again. */
export function useRigNow(): () => RigAnswer {
  return useRigStore().current;
}

/** Edits the rig: shown at once, sent, and taken back with a sentence where the server refuses. */
export function useEdit(): (edit: RigEdit) => void {
  const store = useRigStore();
  return useCallback((edit) => store.edit(edit), [store]);
}

/** Says in a sentence why an edit was refused. */
export function useRefusals(): void {
  const store = useRigStore();
  const { message } = App.useApp();
  useEffect(() => store.onRefused((error) => void message.error(error instanceof RefusedError ? error.message : 'Pumice does not answer now: what you changed was not taken.')), [store, message]);
}

/** Goes to the Stage or back to the Bench. */
export function useSetStage(): (stage: boolean) => void {
  const store = useRigStore();
  const { message } = App.useApp();
  const { mutate } = useMutation({
    // What was edited a moment ago is no edit on Stage.
    mutationFn: async (stage: boolean) => {
      await store.answeredSoFar();
      return postStage(stage);
    },
    onSuccess: (answer) => store.whole(answer),
    onError: (error) => void message.error(error.message),
  });
  return mutate;
}
