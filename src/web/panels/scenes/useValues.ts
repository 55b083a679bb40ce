import { useCallback } from 'react';
import { fetchValues } from '../../live/fetchRig';

/** Where everything stands that was ever moved, when it is asked; what nobody touched has no value. */
export function useValues(): () => Promise<Record<string, number>> {
  return useCallback(() => fetchValues(), []);
}
