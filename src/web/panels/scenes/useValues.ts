import { App } from 'antd';
import { useCallback } from 'react';
import type { Standing } from '../../../core/rig/scene';
import { fetchValues, RefusedError } from '../../live/fetchRig';
import { useLive } from '../../live/LiveProvider';
import { useRigNow } from '../shell/useRig';

/** How the rig stands when it is asked, switched by scenes or not. As `useValues`. */
export function useStanding(): () => Promise<Standing | null> {
  const live = useLive();
  const rigNow = useRigNow();
  const values = useValues();
  return useCallback(async () => {
    const now = await values();
    const { byId, alone, membersOff } = live.store.mappingStates.value;
    const { members } = rigNow().document;
    const isMember = (id: string) => byId.size > 0 && members.some((member) => member.id === id);
    return now && { values: now, alone, isOn: (id) => (isMember(id) ? !membersOff.includes(id) : byId.get(id)?.sends) };
  }, [live, rigNow, values]);
}

/**
 * Where everything stands that was ever moved, when it is asked; what nobody touched has no value. Null where there is no
 * answer, which is said.
 */
export function useValues(): () => Promise<Record<string, number> | null> {
  const { message } = App.useApp();
  return useCallback(
    () =>
      fetchValues().catch((error: Error) => {
        const why = error instanceof RefusedError ? error.message : 'Pumice does not answer now.';
        void message.error({ key: 'values', content: `Where the controls stand cannot be told: ${why} Nothing was changed; try again.`, duration: 6 });
        return null;
      }),
    [message],
  );
}
