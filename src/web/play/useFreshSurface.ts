import { useEffect, useState } from 'react';
import type { PlayedSurface } from '../../protocol/playedSurface';
import { fetchSurface, RefusedError } from '../live/fetchRig';
import { usePlayedRig } from '../live/useLiveFacts';
import { keepControls, same } from './keepControls';

/** Where nobody answers it is asked again after so long. */
const AGAIN_MS = 1000;

/** The surface as the rig has it now: fetched again when the rig was edited, or another one opened, while the page is open. */
export function useFreshSurface(first: PlayedSurface): Pick<PlayedSurface, 'surface' | 'captions' | 'scales'> {
  const [fresh, setFresh] = useState(first);
  const played = usePlayedRig();
  const { id } = first.surface;
  useEffect(() => {
    if (played === '' || played === fresh.played) return;
    let current = true;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const take = (found: PlayedSurface) =>
      setFresh((before) => ({
        ...found,
        // The same objects where nothing changed: a control that is drawn anew would let go of its finger.
        surface: same(before.surface, found.surface) ? before.surface : keepControls(before.surface, found.surface),
        scales: same(before.scales, found.scales) ? before.scales : found.scales,
        captions: same(before.captions, found.captions) ? before.captions : found.captions,
      }));
    const look = () =>
      void fetchSurface(id).then(
        (found) => current && take(found),
        (error: unknown) => {
          // Where the surface is not there any more the page shows it as it was: a hand may be on it.
          if (current && !(error instanceof RefusedError)) timer = setTimeout(look, AGAIN_MS);
        },
      );
    look();
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [played, fresh.played, id]);
  return fresh;
}
