import { App } from 'antd';
import { useCallback, useEffect } from 'react';
import { useLive } from '../../live/LiveProvider';
import { HERE } from '../../live/store';

/** Silences everything, and says where that could not go out; what came of it is said by `usePanicAnswer`. */
export function usePanic(): () => void {
  const live = useLive();
  const { message } = App.useApp();
  return useCallback(() => {
    if (!live.panic()) void message.error('Panic could not be sent: there is no connection to Pumice.');
  }, [live, message]);
}

/** Says how many notes a Panic of this page ended; once in a page. */
export function usePanicAnswer(): void {
  const live = useLive();
  const { message } = App.useApp();
  useEffect(() => live.store.panicked.listen(HERE, (notes) => void message.info(`Panic: ${notes === 0 ? 'no note sounded' : notes === 1 ? 'one note ended' : `${notes} notes ended`}, and every channel in use is silenced.`)), [live, message]);
}
