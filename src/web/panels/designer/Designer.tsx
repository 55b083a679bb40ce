'use client';

import { DndContext, DragOverlay, PointerSensor, useSensor, useSensors, type Announcements, type DragEndEvent, type UniqueIdentifier } from '@dnd-kit/core';
import { Button } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { ControlKind, RigSurface } from '../../../core/rig/document';
import { captionsOfBanks, scalesOf } from '../../../core/surface/captions';
import { CONTROL_KINDS } from '../../../core/surface/controlKinds';
import type { Spot } from '../../../core/surface/make';
import { useLive } from '../../live/LiveProvider';
import { Board } from '../../play/Board';
import type { Playing } from '../../play/PlayContext';
import { VoiceDesk } from '../../play/voiceDesk';
import { PlayDesk } from '../../play/playDesk';
import { Locked } from '../shared/edit';
import { useRig } from '../shell/useRig';
import { Canvas } from './Canvas';
import { Glyph } from './Glyph';
import { PageTabs } from './PageTabs';
import { Properties } from './Properties';
import { SurfaceProperties } from './SurfaceProperties';
import { ToolBar } from './ToolBar';
import { Tray } from './Tray';
import { surfaceOf, useDesigner } from './useDesigner';
import styles from './Designer.module.css';
import pageTabs from './PageTabs.module.css';
import shared from '../shared/shared.module.css';
import { ScreenLink } from '../shared/ScreenLink';

/** Around the artboard, so that handles at its edge can be reached. */
const ROOM = 24;

export function Designer({ surfaceId }: { surfaceId: string }) {
  const { document: rig } = useRig();
  const surface = surfaceOf(rig, surfaceId);
  if (surface) return <DesignerOf key={surfaceId} surface={surface} />;
  return (
    <section>
      <h1>There is no surface “{surfaceId}” in {rig.name}.</h1>
      <ScreenLink href="/surfaces">To the surfaces of this rig</ScreenLink>
    </section>
  );
}

function DesignerOf({ surface }: { surface: RigSurface }) {
  const live = useLive();
  const { document: rig } = useRig();
  const [wanted, turnTo] = useState<Spot>({ surface: surface.id, page: surface.pages[0]!.id });
  const [zoom, setZoom] = useState(1);
  const [trying, setTrying] = useState(false);
  const [carried, setCarried] = useState<ControlKind | null>(null);
  const spot = useMemo(() => existing(surface, wanted), [surface, wanted]);
  const fold = foldAt(surface, spot);
  const artboard = fold ? { width: fold.panel.width, height: fold.panel.height } : { width: surface.width, height: surface.height };
  const desk = useDesigner(surface, spot, artboard);
  const { room, scale } = useFitted(artboard, zoom);
  const captions = useMemo(() => captionsOfBanks(rig, surface), [rig, surface]);
  const scales = useMemo(() => scalesOf(rig, surface), [rig, surface]);
  const playing = useMemo<Playing>(
    () => ({ desk: new PlayDesk(live, () => scale), voices: new VoiceDesk(live), live, scale, captions: captions[0]!, scales, pages: surface.pages, page: spot.page, turnTo: () => undefined, banks: surface.banks ?? [], bank: 0, turnToBank: () => undefined, recall: () => undefined }),
    [live, scale, captions, scales, surface.pages, surface.banks, spot.page],
  );
  useEffect(() => {
    if (!trying) return;
    live.try(surface.id);
    return () => live.try(null);
  }, [live, trying, surface.id]);

  // What was pressed beside it makes way for something else: the keys that move and mark are where it was chosen for.
  const toCanvas = () => room.current?.querySelector<HTMLElement>('[role="application"]')?.focus({ preventScroll: true });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const lifted = useLifted();
  const [isOver, setOver] = useState(false);
  const putDown = () => {
    setCarried(null);
    setOver(false);
  };
  const drop = ({ active }: DragEndEvent) => {
    putDown();
    const { x, y } = lifted.current;
    const canvas = room.current!.querySelector('[role="application"]')?.getBoundingClientRect();
    // A canvas that is zoomed lies beneath what stands around it: let go of there, nothing was meant.
    if (!canvas || !isIn(canvas, x, y, ROOM) || !isIn(room.current!.getBoundingClientRect(), x, y)) return;
    desk.make(active.id as ControlKind, { x: (x - canvas.left) / scale, y: (y - canvas.top) / scale });
  };

  return (
    <DndContext
      accessibility={SAID}
      // At its edges the canvas scrolls. Not sooner: as something comes over it, the place of the tray is taken for that of the canvas for a moment.
      autoScroll={{ enabled: isOver, canScroll: (element) => element === room.current }}
      sensors={sensors}
      onDragStart={({ active }) => setCarried(active.id as ControlKind)}
      onDragOver={({ over }) => setOver(over !== null)}
      onDragEnd={drop}
      onDragCancel={putDown}
    >
      <section className={styles.designer} aria-label={`Designer of ${surface.name}`}>
        <header>
          <ScreenLink href="/surfaces" aria-label="Back to the surfaces">
            ←
          </ScreenLink>
          <h1>{surface.name}</h1>
          {fold ? (
            <div className={pageTabs.pageTabs}>
              <Button onClick={() => turnTo({ surface: surface.id, page: spot.page })}>← Back to the page</Button>
              <strong>Inside {fold.label || 'the fold-out'}</strong>
            </div>
          ) : (
            <PageTabs surface={surface} spot={spot} desk={desk} onTurn={turnTo} onTurned={toCanvas} />
          )}
          <a className={shared.open} href={`/play/${surface.id}`} target="_blank" rel="noreferrer">
            Open to play ↗
          </a>
        </header>
        <Locked when={trying}>
          <Tray without={fold ? ['fold'] : []} onMake={desk.make} />
          <div className={styles.canvasSide}>
            <ToolBar desk={desk} artboard={artboard} zoom={zoom} onZoom={setZoom} trying={trying} onTry={setTrying} />
            <div data-room className={styles.canvas} ref={room}>
              {trying ? (
                <div className={`${styles.artboard} ${styles.trying}`} data-trying style={{ width: surface.width * scale, height: surface.height * scale }}>
                  <Board surface={surface} captions={captions} scales={scales} scale={scale} turned={NOT_TURNED} firstPage={spot.page} />
                </div>
              ) : (
                <Canvas desk={desk} playing={playing} palette={surface.palette} artboard={artboard} onOpenFold={(id) => turnTo({ ...spot, fold: id })} />
              )}
            </div>
          </div>
        </Locked>
        <div className={styles.properties} role="group" aria-label="Properties">
          {trying ? (
            <p className={shared.quiet}>Every control plays as on the tablet, with mouse and fingers. What it sends is really sent.</p>
          ) : desk.chosen.length > 0 ? (
            <Properties surface={surface} desk={desk} artboard={artboard} onOpenFold={(id) => turnTo({ ...spot, fold: id })} />
          ) : (
            <SurfaceProperties surface={surface} desk={desk} onMarked={toCanvas} />
          )}
        </div>
      </section>
      <DragOverlay dropAnimation={null}>
        {carried && (
          <div className={styles.carriedControl}>
            <Glyph kind={carried} />
            {CONTROL_KINDS[carried].name}
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}

const NOT_TURNED = {};

const named = ({ id }: { id: UniqueIdentifier }) => CONTROL_KINDS[id as ControlKind].name;

/** What is said to who hears the screen while something is carried from the tray. */
const SAID = {
  announcements: {
    onDragStart: ({ active }) => `${named(active)} is carried.`,
    onDragOver: () => undefined,
    onDragEnd: ({ active }) => `${named(active)} was let go of.`,
    onDragCancel: ({ active }) => `${named(active)} was not placed.`,
  } satisfies Announcements,
  screenReaderInstructions: { draggable: 'A press places the control where there is room.' },
};

const isIn = ({ left, right, top, bottom }: DOMRect, x: number, y: number, beside = 0) => x >= left - beside && x <= right + beside && y >= top - beside && y <= bottom + beside;

/** Where a pointer lifted last. What carries things tells where they were as they were drawn last, which a quick pointer has left by then. */
function useLifted() {
  const lifted = useRef({ x: NaN, y: NaN });
  useEffect(() => {
    const lift = ({ clientX, clientY }: PointerEvent) => void (lifted.current = { x: clientX, y: clientY });
    // Before what carries things hears of it.
    addEventListener('pointerup', lift, true);
    return () => removeEventListener('pointerup', lift, true);
  }, []);
  return lifted;
}

/** The spot, or the nearest that there still is: a page or a fold-out may have gone in another window. */
function existing(surface: RigSurface, { page, fold }: Spot): Spot {
  const found = surface.pages.find(({ id }) => id === page) ?? surface.pages[0]!;
  const stays = fold !== undefined && found.controls.some(({ id, kind }) => id === fold && kind === 'fold');
  return { surface: surface.id, page: found.id, ...(stays ? { fold } : {}) };
}

function foldAt(surface: RigSurface, { page, fold }: Spot) {
  const found = surface.pages.find(({ id }) => id === page)?.controls.find(({ id }) => id === fold);
  return found?.kind === 'fold' ? found : null;
}

/** The scale at which the artboard fits into its room, times the zoom. */
function useFitted({ width, height }: { width: number; height: number }, zoom: number) {
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 700, height: 560 });
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }));
    observer.observe(room.current!);
    return () => observer.disconnect();
  }, []);
  const fit = Math.min((size.width - 2 * ROOM) / width, (size.height - 2 * ROOM) / height);
  return { room, scale: Math.max(0.1, fit * zoom) };
}
