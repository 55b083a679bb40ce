import { useEffect, useState } from 'react';
import type { RigSurface } from '../../core/rig/document';
import { fetchRig } from '../live/fetchRig';
import { useRigRevision } from '../live/useLiveFacts';

/** The surface as the rig has it now: fetched again when the rig was edited while the page is open. */
export function useFreshSurface(first: RigSurface, firstRevision: number): RigSurface {
  const [surface, setSurface] = useState(first);
  const revision = useRigRevision();
  useEffect(() => {
    if (revision <= firstRevision) return;
    let current = true;
    void fetchRig().then(({ document }) => {
      const found = document.surfaces.find(({ id }) => id === first.id);
      if (current && found) setSurface((before) => (JSON.stringify(before) === JSON.stringify(found) ? before : found));
    });
    return () => {
      current = false;
    };
  }, [revision, firstRevision, first.id]);
  return surface;
}
