'use client';

import { usePlaying } from '../../live/useLiveFacts';
import { useRig } from '../shell/useRig';
import { SurfacePicture } from './SurfacePicture';

/** The surfaces of the rig, who plays them now, and the way to open them. */
export function SurfacesPanel() {
  const { document: rig } = useRig();
  const playing = usePlaying();
  return (
    <section aria-labelledby="surfaces-title">
      <h1 id="surfaces-title">Surfaces</h1>
      {rig.surfaces.length === 0 && <p>This rig has no surfaces yet.</p>}
      <ul className="surfaces">
        {rig.surfaces.map((surface) => {
          const pages = playing[surface.id] ?? 0;
          return (
            <li key={surface.id}>
              <a href={`/play/${surface.id}`} target="_blank" rel="noreferrer">
                <SurfacePicture surface={surface} />
                <strong>{surface.name}</strong>
                <span className="open">Open to play ↗</span>
              </a>
              <p>
                {surface.width} × {surface.height} · {surface.pages.reduce((sum, { controls }) => sum + controls.length, 0)} controls
                <span className="playing" data-alive={pages > 0}>
                  {pages === 0 ? 'not open anywhere' : pages === 1 ? 'open on 1 page' : `open on ${pages} pages`}
                </span>
              </p>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
