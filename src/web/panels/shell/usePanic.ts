import { App } from 'antd';
import { useCallback, useEffect } from 'react';
import { PANIC_LASTS_MS } from '../../live/connection';
import { useLive } from '../../live/LiveProvider';
import { HERE } from '../../live/store';

/** What is said of one takes the place of what was said before. */
const KEY = 'panic';
const WAITS = { key: KEY, content: `There is no connection to Pumice: Panic goes out if it is back within ${PANIC_LASTS_MS / 1000} s.`, duration: PANIC_LASTS_MS / 1000 };

/** Silences everything, and says where that has to wait; what came of it is said by `usePanicAnswer`. */
export function usePanic(): () => void {
  const live = useLive();
  const { message } = App.useApp();
  return useCallback(() => {
    if (!live.panic()) void message.error(WAITS);
  }, [live, message]);
}

/** Says how many notes a Panic of this page ended, and where the line was lost before it had an answer; once in a page. */
export function usePanicAnswer(): void {
  const live = useLive();
  const { message } = App.useApp();
  useEffect(() => live.store.panicked.listen(HERE, (notes) => void message.info({ key: KEY, content: `Panic: ${notes === 0 ? 'no note sounded' : notes === 1 ? 'one note ended' : `${notes} notes ended`}, and every channel in use is silenced.` })), [live, message]);
  useEffect(() => live.state.listen(() => void (live.status === 'lost' && live.panicWaits && message.error(WAITS))), [live, message]);
}
