import { useEffect, useState } from 'react';
import type { RigSurface } from '../../core/rig/document';
import type { PlayedSurface } from '../../protocol/playedSurface';
import { fetchSurface } from '../live/fetchRig';
import { usePlayedRig } from '../live/useLiveFacts';

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

const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

/** The new surface, with the controls that did not change as they were. */
function keepControls(before: RigSurface, after: RigSurface): RigSurface {
  const known = new Map(before.pages.flatMap(({ controls }) => controls.map((control) => [control.id, control])));
  const controls = (page: RigSurface['pages'][number]) =>
    page.controls.map((control) => {
      const old = known.get(control.id);
      return old && same(old, control) ? old : control;
    });
  return { ...after, pages: after.pages.map((page) => ({ ...page, controls: controls(page) })) };
}
