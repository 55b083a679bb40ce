'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import type { RigControl, RigSurface } from '../../core/rig/document';
import type { PlayedSurface } from '../../protocol/playedSurface';
import { fitInto } from '../../core/surface/fit';
import type { LineStatus } from '../live/connection';
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
import { useGivenSurface } from '../live/useGivenSurface';
import { useStaying } from './useStaying';

interface PlaySurfaceProps extends PlayedSurface {
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

function Fitted(first: PlaySurfaceProps) {
  const live = useLive();
  const status = useLineStatus();
  const surface = useFreshSurface(first);
  const liveStage = useLiveStage();
  const stage = live.revision < 0 ? first.stage : liveStage;
  const shown = useShownPage();
  const page = surface.pages.find(({ id }) => id === shown) ?? surface.pages[0]!;
  const { scale, left, top } = useWindowFit(surface);
  const scaleNow = useRef(scale);
  useEffect(() => {
    scaleNow.current = scale;
  }, [scale]);
  useGivenSurface(status);
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
        {LINE_WORDS[status]}
      </p>
    </main>
  );
}

const LINE_WORDS: Record<LineStatus, string> = {
  open: '',
  lost: 'No connection to Pumice. Trying again…',
  connecting: 'Connecting…',
  dropped: 'The host has dropped this device.',
};

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
