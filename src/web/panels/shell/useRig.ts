import { useIsMutating, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';
import { useCallback, useEffect } from 'react';
import { applyEdit, type RigEdit } from '../../../core/rig/edit';
import { fetchRig, postEdit, postStage, type RigAnswer } from '../../live/fetchRig';
import { useLive } from '../../live/LiveProvider';
import { useLiveStage, usePlayedRig } from '../../live/useLiveFacts';

const RIG = ['rig'] as const;

/** The open rig. The shell puts the first one in, so that it is always there. */
export function useRig(): RigAnswer {
  return useQuery({ queryKey: RIG, queryFn: fetchRig, staleTime: Infinity }).data!;
}

/** The open rig as it is at the moment of asking, for what is done twice before anything is drawn again. */
export function useRigNow(): () => RigAnswer {
  const client = useQueryClient();
  return useCallback(() => client.getQueryData<RigAnswer>(RIG)!, [client]);
}

/**
 * Fetches the rig again whenever the hub says that it is another than ours; not while an edit of ours is on its way, which
 * an older answer would take off the screen for a moment: its own answer brings the rig along.
 */
export function useRigFollowing(): void {
  const client = useQueryClient();
  const live = useLive();
  const played = usePlayedRig();
  const stage = useLiveStage();
  const underWay = useIsMutating();
  useEffect(() => {
    // Asked for anew: what was drawn last may not know of an edit that just began.
    if (client.isMutating() > 0) return;
    const ours = client.getQueryData<RigAnswer>(RIG);
    if (live.revision >= 0 && ours && (`${ours.id} ${ours.revision}` !== played || ours.stage !== stage)) void client.invalidateQueries({ queryKey: RIG });
  }, [client, live, played, stage, underWay]);
}

/** Edits the rig: shown at once, sent, and taken back with a sentence where the server refuses. */
export function useEdit(): (edit: RigEdit) => void {
  const client = useQueryClient();
  const { message } = App.useApp();
  const { mutate } = useMutation({
    // One after another, so that the answers come back in the order of the edits.
    scope: { id: 'rig' },
    mutationFn: ({ edit, basedOn }: { edit: RigEdit; basedOn: number }) => postEdit(client.getQueryData<RigAnswer>(RIG)!.id, edit, basedOn),
    onMutate: async ({ edit }) => {
      await client.cancelQueries({ queryKey: RIG });
      const before = client.getQueryData<RigAnswer>(RIG)!;
      const applied = applyEdit(before.document, edit);
      if (applied.ok) client.setQueryData<RigAnswer>(RIG, { ...before, document: applied.document });
    },
    onSuccess: (answer) => {
      if (client.isMutating() <= 1) client.setQueryData<RigAnswer>(RIG, answer);
    },
    onError: (error) => {
      void message.error(error.message);
      void client.invalidateQueries({ queryKey: RIG });
    },
  });
  return useCallback((edit) => mutate({ edit, basedOn: client.getQueryData<RigAnswer>(RIG)!.revision }), [client, mutate]);
}

/** Goes to the Stage or back to the Bench. */
export function useSetStage(): (stage: boolean) => void {
  const client = useQueryClient();
  const { message } = App.useApp();
  const { mutate } = useMutation({
    mutationFn: postStage,
    onSuccess: (answer) => client.setQueryData<RigAnswer>(RIG, answer),
    onError: (error) => void message.error(error.message),
  });
  return mutate;
}
