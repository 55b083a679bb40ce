import { useEffect, useState } from 'react';
import type { RigSurface } from '../../core/rig/document';
import { fetchRig } from '../live/fetchRig';
import { usePlayedRig } from '../live/useLiveFacts';

/**
 * The surface as the rig has it now: fetched again when the rig was edited, or another one opened, while the page is open.
 * @param firstPlayed the id and the revision of the rig that `first` is of
 */
export function useFreshSurface(first: RigSurface, firstPlayed: string): RigSurface {
  const [surface, setSurface] = useState(first);
  const played = usePlayedRig();
  useEffect(() => {
    if (played === '' || played === firstPlayed) return;
    let current = true;
    void fetchRig().then(({ document }) => {
      const found = document.surfaces.find(({ id }) => id === first.id);
      if (current && found) setSurface((before) => (JSON.stringify(before) === JSON.stringify(found) ? before : found));
    });
    return () => {
      current = false;
    };
  }, [played, firstPlayed, first.id]);
  return surface;
}
