'use client';

import { Button } from 'antd';
import { partOf } from '../../../core/rig/part';
import type { RigSurface } from '../../../core/rig/document';
import { printedPage } from '../../../core/surface/printed';
import { usePlaying } from '../../live/useLiveFacts';
import { download } from '../shared/download';
import { useRig } from '../shell/useRig';
import { JoinedDevices } from './JoinedDevices';
import { SurfacePicture } from './SurfacePicture';

/** The surfaces of the rig, who plays them now, and the way to open them. */
export function SurfacesPanel() {
  const { document: rig } = useRig();
  const print = (surface: RigSurface) => {
    for (const page of surface.pages) download(`${surface.name}${surface.pages.length > 1 ? ` ${page.name}` : ''}.svg`, printedPage(rig, surface, page), 'image/svg+xml');
  };
  const exportAlone = (surface: RigSurface) => {
    const input = rig.inputs.find((candidate) => candidate.kind === 'surface' && candidate.surface === surface.id);
    const part = input && partOf(rig, { list: 'inputs', id: input.id });
    if (part) download(`${surface.name}.json`, `${JSON.stringify(part, null, 2)}\n`, 'application/json');
  };
  const playing = usePlaying();
  return (
    <section aria-labelledby="surfaces-title">
      <h1 id="surfaces-title">Surfaces</h1>
      <p className="quiet">A surface that was exported comes back on the screen Rigs, by “Import a rig”: beside what is there, or in its place.</p>
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
              <div className="actions">
                <Button aria-label={`Picture of ${surface.name} to print`} onClick={() => print(surface)}>
                  Picture to print
                </Button>
                <Button aria-label={`Export ${surface.name}`} onClick={() => exportAlone(surface)}>
                  Export
                </Button>
              </div>
            </li>
          );
        })}
      </ul>
      <JoinedDevices />
    </section>
  );
}
