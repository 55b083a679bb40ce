import { App } from 'antd';
import { useCallback } from 'react';
import type { FromClient } from '../../../protocol/live';
import { useLive } from '../../live/LiveProvider';

/** Tells the hub what a person wants done at once. Where nobody would do it that is said, and false. */
export function useTellNow(): (wish: FromClient) => boolean {
  const live = useLive();
  const { message } = App.useApp();
  return useCallback(
    (wish) => {
      const told = live.tellNow(wish);
      // However often it is tried, it is said once.
      if (!told) void message.error({ key: 'told-nobody', content: 'That could not be said: there is no connection to Pumice.' });
      return told;
    },
    [live, message],
  );
}
