'use client';

import { Button } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { kitOf } from '../../../core/rig/kit';
import type { RigSurface } from '../../../core/rig/document';
import { flatControls } from '../../../core/surface/controlKinds';
import { printedSheets } from '../../../core/surface/printed';
import { counted } from '../../../core/units/counted';
import { usePlaying } from '../../live/useLiveFacts';
import { download } from '../shared/download';
import { EditButton } from '../shared/edit';
import { useRig } from '../shell/useRig';
import { JoinedDevices } from './JoinedDevices';
import { NewSurface } from './NewSurface';
import { SurfacePicture } from './SurfacePicture';
import shared from '../shared/shared.module.css';
import { ScreenLink } from '../shared/ScreenLink';
import styles from './SurfacesPanel.module.css';

/** The surfaces of the rig, who plays them now, and the way to open them. */
export function SurfacesPanel() {
  const { document: rig } = useRig();
  const router = useRouter();
  const [making, setMaking] = useState(false);
  const print = (surface: RigSurface) => {
    for (const { name, svg } of printedSheets(rig, surface)) download(`${name}.svg`, svg, 'image/svg+xml');
  };
  const exportAlone = (surface: RigSurface) => {
    const input = rig.inputs.find((candidate) => candidate.kind === 'surface' && candidate.surface === surface.id);
    const part = input && kitOf(rig, { list: 'inputs', id: input.id });
    if (part) download(`${surface.name}.json`, `${JSON.stringify(part, null, 2)}\n`, 'application/json');
  };
  const playing = usePlaying();
  return (
    <section aria-labelledby="surfaces-title">
      <div className={styles.heading}>
        <h1 id="surfaces-title">Surfaces</h1>
        <EditButton type="primary" onClick={() => setMaking(true)}>
          New surface…
        </EditButton>
      </div>
      {making && <NewSurface onClose={() => setMaking(false)} />}
      {rig.surfaces.length === 0 && <p>This rig has no surfaces yet: make one, or bring one that was exported by “Import a rig” on the screen Rigs.</p>}
      <ul className={styles.surfaces}>
        {rig.surfaces.map((surface) => {
          const pages = playing[surface.id] ?? 0;
          return (
            <li key={surface.id}>
              <ScreenLink href={`/surfaces/${surface.id}`} aria-label={`Design ${surface.name}`}>
                <SurfacePicture surface={surface} />
                <strong>{surface.name}</strong>
              </ScreenLink>
              <p>
                {surface.width} × {surface.height} · {counted(surface.pages.reduce((sum, { controls }) => sum + flatControls(controls).length, 0), 'control')}
                <span className={styles.playing} data-alive={pages > 0}>
                  {pages === 0 ? 'not open anywhere' : pages === 1 ? 'open on 1 page' : `open on ${pages} pages`}
                </span>
              </p>
              <div className={styles.actions}>
                <Button onClick={() => router.push(`/surfaces/${surface.id}`)}>Design</Button>
                <a className={shared.open} href={`/play/${surface.id}`} target="_blank" rel="noreferrer">
                  Open to play ↗
                </a>
                <Button aria-label={`Picture of ${surface.name} to print`} onClick={() => print(surface)}>
                  Print
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
