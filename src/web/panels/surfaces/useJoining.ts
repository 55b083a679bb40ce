import { useQuery, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';
import { useEffect } from 'react';
import type { Joining } from '../../../protocol/devices';
import { dropDevice, fetchJoining, patchDevice, postCode, putLan } from '../../live/fetchRig';
import { usePresentDevices } from '../../live/useLiveFacts';

const JOINING = ['joining'] as const;
/** While a code is shown somebody may use it at any moment; a device that joined without being there yet is seen then. */
const WATCHED_MS = 1500;

/** How devices may join and which have, and what can be done about it. */
export function useJoining() {
  const client = useQueryClient();
  const { message } = App.useApp();
  const present = usePresentDevices();
  const { data: joining } = useQuery({
    queryKey: JOINING,
    queryFn: fetchJoining,
    // Doors of the network open and close with the network.
    refetchInterval: ({ state }) => (state.data?.code ? WATCHED_MS : state.data?.lan ? 2 * WATCHED_MS : false),
  });
  useEffect(() => void client.invalidateQueries({ queryKey: JOINING }), [client, present]);
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
    } catch (error) {
      void message.error((error as Error).message, 6);
    }
    await client.invalidateQueries({ queryKey: JOINING });
  };
  return {
    joining,
    present,
    setLan: (on: boolean) => attempt(async () => client.setQueryData<Joining>(JOINING, await putLan(on))),
    makeCode: (surface: string | null, admits: number) => attempt(() => postCode(surface, admits)),
    change: (id: string, set: { name?: string; surface?: string | null }) => attempt(() => patchDevice(id, set)),
    drop: (id: string) => attempt(() => dropDevice(id)),
  };
}
