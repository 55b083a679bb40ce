'use client';

import { useEffect, useMemo, useState } from 'react';
import type { RigSurface } from '../../core/rig/document';
import type { PlayedSurface } from '../../protocol/playedSurface';
import { fitInto } from '../../core/surface/fit';
import { reachesAllPages } from '../../core/surface/reach';
import { LiveProvider, useLive } from '../live/LiveProvider';
import { useInTurn, useLineStatus, useLineWords, useLiveStage, useTurned } from '../live/useLiveFacts';
import { cssVariables, paletteOf } from '../theme/tokens';
import { Unbroken } from '../theme/Unbroken';
import { RecordingSign } from '../recording/RecordingSign';
import { heardAlready, takeEarlyFingers } from './earlyFingers';
import { BeforePlaying } from './BeforePlaying';
import { Board } from './Board';
import { IN_TURN_BAR_PX, InTurnBar } from './InTurnBar';
import { STRIP_PX } from './PageStrip';
import { useAwake } from '../useAwake';
import { usePanicKey } from '../live/usePanicKey';
import { useFreshSurface } from './useFreshSurface';
import { useGivenSurface } from '../live/useGivenSurface';
import { useStaying } from './useStaying';
import styles from './PlaySurface.module.css';

interface PlaySurfaceProps extends PlayedSurface {
  hubPort: number;
}

/** What a tablet shows: one surface, as large as fits, and one line where the connection is not there. */
export function PlaySurface(props: PlaySurfaceProps) {
  return (
    <Unbroken>
      <LiveProvider hubPort={props.hubPort} surface={props.surface.id}>
        <Fitted {...props} />
      </LiveProvider>
    </Unbroken>
  );
}

function Fitted(first: PlaySurfaceProps) {
  const live = useLive();
  const status = useLineStatus();
  const words = useLineWords();
  const { surface, captions, scales } = useFreshSurface(first);
  const liveStage = useLiveStage();
  const stage = live.store.rig.value.revision < 0 ? first.stage : liveStage;
  const turned = useTurned();
  // Pages that no tab leads to are turned by a strip of their own, beneath the surface.
  const strip = useMemo(() => surface.pageStrip !== false && !reachesAllPages(surface), [surface]);
  const above = useInTurn() === null ? 0 : IN_TURN_BAR_PX;
  const { scale, left, top } = useWindowFit(surface, above, strip ? STRIP_PX : 0);
  useGivenSurface(status);
  useAwake();
  usePanicKey(live);
  useStaying();
  useEarlyFingers(status === 'open');
  return (
    <main className={styles.play} data-line={status} style={cssVariables(paletteOf(stage))} onPointerDownCapture={({ pointerId }) => heardAlready(pointerId)} onContextMenu={(event) => event.preventDefault()}>
      <Board surface={surface} captions={captions} scales={scales} scale={scale} style={{ left, top: top + above }} turned={turned} strip={strip} />
      {status === 'open' && <BeforePlaying />}
      {status === 'open' && <InTurnBar />}
      {status === 'open' && <RecordingSign />}
      <p className={styles.line} role="status">
        {words}
      </p>
    </main>
  );
}

/** Fingers that were there first are heard once the line is open and everything stands where it fits. */
function useEarlyFingers(isOpen: boolean) {
  useEffect(() => {
    if (!isOpen) return;
    const frame = requestAnimationFrame(takeEarlyFingers);
    return () => cancelAnimationFrame(frame);
  }, [isOpen]);
}

/** @param above, below pixels of the window that are kept free at its upper and lower edge */
function useWindowFit(surface: RigSurface, above: number, below: number) {
  const [size, setSize] = useState({ width: surface.width, height: surface.height });
  useEffect(() => {
    const measure = () => setSize({ width: window.innerWidth, height: window.innerHeight - above - below });
    measure();
    window.addEventListener('resize', measure);
    return () => window.removeEventListener('resize', measure);
  }, [above, below]);
  return fitInto(surface, size);
}
