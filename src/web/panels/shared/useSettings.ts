import { useQuery, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';

/** Settings that are kept on this computer, apart from rigs: where they are read, and written as a whole. */
export interface SettingsPlace<Settings> {
  key: string;
  fetch(): Promise<Settings>;
  put(settings: Settings): Promise<Settings>;
}

/** Settings of this computer, and how they are changed. What the server does not take is said and changes nothing. */
export function useSettings<Settings extends object>({ key, fetch, put }: SettingsPlace<Settings>): { settings: Settings | undefined; change: (set: Partial<Settings> | ((before: Settings) => Partial<Settings>)) => Promise<void> } {
  const client = useQueryClient();
  const { message } = App.useApp();
  const queryKey = ['settings', key];
  const { data: settings } = useQuery({ queryKey, queryFn: fetch, staleTime: Infinity });
  const change = async (set: Partial<Settings> | ((before: Settings) => Partial<Settings>)) => {
    try {
      // Another window may have changed them since they were read here.
      const before = await fetch();
      client.setQueryData(queryKey, await put({ ...before, ...(typeof set === 'function' ? set(before) : set) }));
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return { settings, change };
}
