import { useEffect, useState } from 'react';
import type { PlayedSurface } from '../../protocol/playedSurface';
import { fetchSurface } from '../live/fetchRig';
import { usePlayedRig } from '../live/useLiveFacts';

/** The surface as the rig has it now: fetched again when the rig was edited, or another one opened, while the page is open. */
export function useFreshSurface(first: PlayedSurface): PlayedSurface['surface'] {
  const [surface, setSurface] = useState(first.surface);
  const played = usePlayedRig();
  const { id } = first.surface;
  useEffect(() => {
    if (played === '' || played === first.played) return;
    let current = true;
    // Where the surface is not there any more the page shows it as it was: a hand may be on it.
    void fetchSurface(id).then(
      (found) => current && setSurface((before) => (JSON.stringify(before) === JSON.stringify(found.surface) ? before : found.surface)),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [played, first.played, id]);
  return surface;
}
