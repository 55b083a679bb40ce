'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import type { RigControl, RigSurface } from '../../core/rig/document';
import { fitInto } from '../../core/surface/fit';
import { LiveProvider, useLive } from '../live/LiveProvider';
import { useLineStatus, useLiveStage, useShownPage } from '../live/useLiveFacts';
import { cssVariables, paletteOf } from '../theme/tokens';
import { Dial } from './controls/Dial';
import { Fader } from './controls/Fader';
import { Push } from './controls/Push';
import { XyPad } from './controls/XyPad';
import { FullScreen } from './FullScreen';
import { PlayDesk } from './playDesk';
import { useAwake } from './useAwake';
import { usePanicKey } from '../live/usePanicKey';
import { useFreshSurface } from './useFreshSurface';
import { useStaying } from './useStaying';

interface PlaySurfaceProps {
  surface: RigSurface;
  /** The id and the revision of the rig that the surface is of. */
  played: string;
  stage: boolean;
  hubPort: number;
}

/** What a tablet shows: one surface, as large as fits, and one line where the connection is not there. */
export function PlaySurface(props: PlaySurfaceProps) {
  return (
    <LiveProvider hubPort={props.hubPort} surface={props.surface.id}>
      <Fitted {...props} />
    </LiveProvider>
  );
}

function Fitted({ surface: first, played, stage: firstStage }: PlaySurfaceProps) {
  const live = useLive();
  const status = useLineStatus();
  const surface = useFreshSurface(first, played);
  const liveStage = useLiveStage();
  const stage = live.revision < 0 ? firstStage : liveStage;
  const shown = useShownPage();
  const page = surface.pages.find(({ id }) => id === shown) ?? surface.pages[0]!;
  const { scale, left, top } = useWindowFit(surface);
  const scaleNow = useRef(scale);
  useEffect(() => {
    scaleNow.current = scale;
  }, [scale]);
  useAwake();
  usePanicKey(live);
  useStaying();
  const desk = useMemo(() => new PlayDesk(live, () => scaleNow.current), [live]);
  useEffect(() => live.onChange('status', () => live.status === 'open' && desk.sayHeldAgain()), [live, desk]);

  return (
    <main className="play" data-line={status} style={cssVariables(paletteOf(stage))} onContextMenu={(event) => event.preventDefault()}>
      <div className="surface" style={{ left, top, width: surface.width * scale, height: surface.height * scale, fontSize: 17 * scale }}>
        {page.controls.map((control) => (
          <Control key={control.id} control={control} desk={desk} scale={scale} />
        ))}
      </div>
      {status === 'open' && <FullScreen />}
      <p className="line" role="status">
        {status === 'open' ? '' : status === 'lost' ? 'No connection to Pumice. Trying again…' : 'Connecting…'}
      </p>
    </main>
  );
}

function Control({ control, desk, scale }: { control: RigControl; desk: PlayDesk; scale: number }) {
  switch (control.kind) {
    case 'fader':
      return <Fader control={control} desk={desk} scale={scale} />;
    case 'dial':
      return <Dial control={control} desk={desk} scale={scale} />;
    case 'xy':
      return <XyPad control={control} desk={desk} scale={scale} />;
    case 'push':
      return <Push control={control} desk={desk} scale={scale} />;
    default:
      return control satisfies never;
  }
}

function useWindowFit(surface: RigSurface) {
  const [size, setSize] = useState({ width: surface.width, height: surface.height });
  useEffect(() => {
    const measure = () => setSize({ width: window.innerWidth, height: window.innerHeight });
    measure();
    window.addEventListener('resize', measure);
    return () => window.removeEventListener('resize', measure);
  }, []);
  return fitInto(surface, size);
}
