import { useCallback, useEffect, useState } from 'react';

/** The devices of a kind that the browser may lend, and how to look again: their names come once one was lent. */
export function useLentFeeds(kind: 'audioinput' | 'videoinput'): { feeds: readonly MediaDeviceInfo[]; find: () => Promise<void> } {
  const [feeds, setFeeds] = useState<MediaDeviceInfo[]>([]);
  const find = useCallback(async () => setFeeds((await navigator.mediaDevices?.enumerateDevices())?.filter((one) => one.kind === kind && one.deviceId !== '') ?? []), [kind]);
  useEffect(() => void find(), [find]);
  return { feeds, find };
}
