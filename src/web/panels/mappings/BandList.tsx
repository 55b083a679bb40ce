import { closestCenter, DndContext, DragOverlay, KeyboardSensor, PointerSensor, useSensor, useSensors, type Announcements, type DragEndEvent, type KeyboardCoordinateGetter, type UniqueIdentifier } from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { bandRows, moveMapping } from '../../../core/mapping/bands';
import { findEither } from '../../../core/mapping/either';
import type { RigDocument, RigMapping } from '../../../core/rig/document';
import type { RigVoiceMapping } from '../../../core/rig/voices';
import { counted } from '../../../core/units/counted';
import { useEdit } from '../shell/useRig';
import { GroupHeading } from './GroupHeading';
import { VoiceBand } from '../voices/VoiceBand';
import { BAND_PX, MappingBand } from './MappingBand';
import bands from './bands.module.css';

const HEADING_PX = 40;
/** Bands that are kept beyond both edges, so that scrolling never shows a gap. */
const BEYOND = 2;
/** A press that moves less than this is no drag. */
const DRAG_PX = 6;

/** The arrow keys carry a band to the place before or behind, over headings too. */
const byBands: KeyboardCoordinateGetter = (event, { currentCoordinates: { x }, context: { over, collisionRect, droppableRects } }) => {
  const way = { ArrowDown: 1, ArrowUp: -1 }[event.code];
  if (way === undefined || !over || !collisionRect) return undefined;
  event.preventDefault();
  const further = [...droppableRects.values()].filter(({ top }) => (top - over.rect.top) * way > 0).map(({ top }) => top);
  if (further.length === 0) return undefined;
  const next = way > 0 ? Math.min(...further) : Math.max(...further);
  return { x, y: next + (BAND_PX - collisionRect.height) / 2 };
};
/** A list that glides would be behind keys that come quickly. */
const KEYS = { coordinateGetter: byBands, scrollBehavior: 'instant' } as const;

/** What is said to who hears the screen, by the names of the bands. */
function announcementsIn(rig: RigDocument): Announcements {
  const named = (id: UniqueIdentifier) => findEither(rig, String(id))?.name ?? 'the band';
  return {
    onDragStart: ({ active }) => `${named(active.id)} is carried.`,
    onDragOver: ({ active, over }) => (!over ? `${named(active.id)} is over no band.` : over.id === active.id ? `${named(active.id)} is in its own place.` : `${named(active.id)} is at the place of ${named(over.id)}.`),
    onDragEnd: ({ active, over }) => (!over || over.id === active.id ? `${named(active.id)} stays where it was.` : `${named(active.id)} now stands at the place of ${named(over.id)}.`),
    onDragCancel: ({ active }) => `${named(active.id)} stays where it was.`,
  };
}

const INSTRUCTIONS = { draggable: 'Space takes the band up and puts it down; the arrow keys carry it; Escape leaves it where it was.' };

interface BandListProps {
  rig: RigDocument;
  shown: readonly RigMapping[];
  voices: readonly RigVoiceMapping[];
  selectedId: string | null;
  marked: ReadonlySet<string>;
  onSelect: (id: string | null) => void;
  onMark: (id: string, through: boolean) => void;
}

/** The mappings as bands under their groups; only those in view exist, however many there are. */
export function BandList({ rig, shown, voices, selectedId, marked, onSelect, onMark }: BandListProps) {
  const edit = useEdit();
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [carried, setCarried] = useState<string | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useMemo(() => bandRows(shown, folded, voices), [shown, voices, folded]);
  const keyOf = (index: number) => {
    const row = rows[index]!;
    return row.kind !== 'heading' ? row.mapping.id : `heading ${row.group}`;
  };
  // The compiler of React leaves components with this hook alone, which is right for a list that is measured.
  const { getVirtualItems, getTotalSize, scrollToIndex } = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => (rows[index]!.kind !== 'heading' ? BAND_PX : HEADING_PX),
    overscan: BEYOND,
    getItemKey: keyOf,
    initialRect: { width: 900, height: 500 },
  });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: DRAG_PX } }), useSensor(KeyboardSensor, KEYS));
  // One that is selected from elsewhere is brought into view.
  const selectedRow = rows.findIndex((row) => row.kind !== 'heading' && row.mapping.id === selectedId);
  useEffect(() => {
    if (selectedRow >= 0) scrollToIndex(selectedRow, { align: 'auto' });
    // Not when the rows move beneath it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [selectedId]);
  const drop = ({ active, over }: DragEndEvent) => {
    setCarried(null);
    const changes = over ? moveMapping(rig, String(active.id), String(over.id)) : [];
    if (changes.length > 0) edit({ kind: 'change', changes });
  };
  const accessibility = useMemo(() => ({ announcements: announcementsIn(rig), screenReaderInstructions: INSTRUCTIONS }), [rig]);
  const fold = (group: string) => setFolded((before) => new Set(before.has(group) ? [...before].filter((other) => other !== group) : [...before, group]));

  return (
    <DndContext accessibility={accessibility} sensors={sensors} collisionDetection={closestCenter} onDragStart={({ active }) => setCarried(String(active.id))} onDragEnd={drop} onDragCancel={() => setCarried(null)}>
      <div ref={scroller} data-scroller className={bands.bandScroll}>
        <ul className={bands.bands} style={{ height: getTotalSize() }} aria-label={counted(shown.length + voices.length, 'mapping')}>
          {getVirtualItems().map(({ index, key, start }) => {
            const row = rows[index]!;
            const place = { topPx: start, position: index + 1, of: rows.length };
            return row.kind === 'heading' ? (
              <GroupHeading key={key} {...place} group={row.group} count={row.count} folded={row.folded} onFold={() => fold(row.group)} />
            ) : row.kind === 'voices' ? (
              <VoiceBand key={key} {...place} mapping={row.mapping} rig={rig} selected={row.mapping.id === selectedId} marked={marked.has(row.mapping.id)} onSelect={onSelect} onMark={onMark} />
            ) : (
              <MappingBand
                key={key}
                {...place}
                mapping={row.mapping}
                rig={rig}
                selected={row.mapping.id === selectedId}
                marked={marked.has(row.mapping.id)}
                onSelect={onSelect}
                onMark={onMark}
              />
            );
          })}
        </ul>
      </div>
      <DragOverlay dropAnimation={null}>{carried !== null && <div className={bands.carried}>{findEither(rig, carried)?.name}</div>}</DragOverlay>
    </DndContext>
  );
}
