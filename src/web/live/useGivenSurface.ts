import { useEffect } from 'react';
import type { LineStatus } from './line';
import { useGiven } from './useLiveFacts';

/** A joined device goes where the host wants it: to another surface, or, dropped, back to the page to join. */
export function useGivenSurface(status: LineStatus): void {
  const given = useGiven();
  useEffect(() => {
    if (given !== undefined) location.replace(given === null ? '/motion' : `/play/${encodeURIComponent(given)}`);
  }, [given]);
  useEffect(() => {
    if (status === 'dropped') location.replace('/join');
  }, [status]);
}
