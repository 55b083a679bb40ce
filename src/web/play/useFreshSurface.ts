import { useEffect, useState } from 'react';
import type { PlayedSurface } from '../../protocol/playedSurface';
import { fetchSurface } from '../live/fetchRig';
import { usePlayedRig } from '../live/useLiveFacts';
import { keepControls, same } from './keepControls';

/** The surface as the rig has it now: fetched again when the rig was edited, or another one opened, while the page is open. */
export function useFreshSurface(first: PlayedSurface): Pick<PlayedSurface, 'surface' | 'captions' | 'scales'> {
  const [fresh, setFresh] = useState(first);
  const played = usePlayedRig();
  const { id } = first.surface;
  useEffect(() => {
    if (played === '' || played === first.played) return;
    let current = true;
    // Where the surface is not there any more the page shows it as it was: a hand may be on it.
    void fetchSurface(id).then(
      (found) =>
        current &&
        setFresh((before) => ({
          ...found,
          // The same objects where nothing changed: a control that is drawn anew would let go of its finger.
          surface: same(before.surface, found.surface) ? before.surface : keepControls(before.surface, found.surface),
          scales: same(before.scales, found.scales) ? before.scales : found.scales,
          captions: same(before.captions, found.captions) ? before.captions : found.captions,
        })),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [played, first.played, id]);
  return fresh;
}
