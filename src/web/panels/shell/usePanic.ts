import { App } from 'antd';
import { useCallback } from 'react';
import { useLive } from '../../live/LiveProvider';

/** Silences everything, and says whether that went out. */
export function usePanic(): () => void {
  const live = useLive();
  const { message } = App.useApp();
  return useCallback(() => {
    if (live.panic()) void message.info('Panic sent: every note is ended.');
    else void message.error('Panic could not be sent: there is no connection to Pumice.');
  }, [live, message]);
}
