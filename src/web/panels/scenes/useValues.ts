import { App } from 'antd';
import { useCallback } from 'react';
import { fetchValues, RefusedError } from '../../live/fetchRig';

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
