import { useCallback, useEffect, useState } from 'react';

/** What of a kind the browser may lend, and how to look again: their names come once one was lent. */
export function useLentFeeds(kind: 'audioinput' | 'videoinput'): { offered: readonly MediaDeviceInfo[]; find: () => Promise<void> } {
  const [offered, setOffered] = useState<MediaDeviceInfo[]>([]);
  const find = useCallback(async () => setOffered((await navigator.mediaDevices?.enumerateDevices())?.filter((one) => one.kind === kind && one.deviceId !== '') ?? []), [kind]);
  useEffect(() => void find(), [find]);
  return { offered, find };
}
