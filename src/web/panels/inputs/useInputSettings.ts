import { useQuery, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';
import type { InputSettings } from '../../../protocol/inputSettings';
import { fetchInputSettings, putInputSettings } from '../../live/fetchRig';

const SETTINGS = ['inputSettings'] as const;

/** The settings of this computer's inputs, and how they are changed. */
export function useInputSettings(): { settings: InputSettings | undefined; change: (set: Partial<InputSettings>) => Promise<void> } {
  const client = useQueryClient();
  const { message } = App.useApp();
  const { data: settings } = useQuery({ queryKey: SETTINGS, queryFn: fetchInputSettings, staleTime: Infinity });
  const change = async (set: Partial<InputSettings>) => {
    try {
      const before = client.getQueryData<InputSettings>(SETTINGS) ?? (await fetchInputSettings());
      client.setQueryData(SETTINGS, await putInputSettings({ ...before, ...set }));
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return { settings, change };
}
