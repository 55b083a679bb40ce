import { useQuery } from '@tanstack/react-query';
import { fetchRigs } from '../../live/fetchRig';
import { useRig } from './useRig';

export const RIGS = ['rigs'] as const;

/** The rigs that are stored here; asked for again where the open one becomes another. */
export function useStoredRigs(): Awaited<ReturnType<typeof fetchRigs>> {
  const { id, revision } = useRig();
  const { data = [] } = useQuery({ queryKey: [...RIGS, revision, id], queryFn: fetchRigs, placeholderData: (before) => before });
  return data;
}
