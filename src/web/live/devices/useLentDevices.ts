import { useCallback, useEffect, useState } from 'react';

/** The devices of a kind that the browser may lend, and how to look again: their names come once one was lent. */
export function useLentDevices(kind: 'audioinput' | 'videoinput'): { devices: readonly MediaDeviceInfo[]; find: () => Promise<void> } {
  const [devices, setDevices] = useState<MediaDeviceInfo[]>([]);
  const find = useCallback(async () => setDevices((await navigator.mediaDevices?.enumerateDevices())?.filter((one) => one.kind === kind && one.deviceId !== '') ?? []), [kind]);
  useEffect(() => void find(), [find]);
  return { devices, find };
}
