import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';

/** Settings that are kept on this computer, apart from rigs: where they are read, and written as a whole. */
export interface SettingsPlace<Settings> {
  key: string;
  fetch(): Promise<Settings>;
  put(settings: Settings): Promise<Settings>;
}

/** What is set anew, or what follows from what is there then. */
type Change<Settings> = Partial<Settings> | ((before: Settings) => Partial<Settings>);

/** Settings of this computer, and how they are changed. What the server does not take is said and changes nothing. */
export function useSettings<Settings extends object>({ key, fetch, put }: SettingsPlace<Settings>): { settings: Settings | undefined; change: (set: Change<Settings>) => Promise<void> } {
  const client = useQueryClient();
  const { message } = App.useApp();
  const queryKey = ['settings', key];
  const { data: settings } = useQuery({ queryKey, queryFn: fetch, staleTime: Infinity });
  const { mutateAsync } = useMutation({
    // One after another: all are written as a whole, and of two at a time one would be lost.
    scope: { id: key },
    mutationFn: async (set: Change<Settings>) => {
      // Another window may have changed them since they were read here.
      const before = await fetch();
      return put({ ...before, ...(typeof set === 'function' ? set(before) : set) });
    },
    onSuccess: (kept) => client.setQueryData(queryKey, kept),
    onError: (error) => void message.error(error.message),
  });
  const change = (set: Change<Settings>) =>
    mutateAsync(set).then(
      () => undefined,
      // Said above.
      () => undefined,
    );
  return { settings, change };
}
