import { useDraggable, useDroppable } from '@dnd-kit/core';
import { landsBehind } from '../../../core/mapping/bands';
import type { RigDocument } from '../../../core/rig/document';
import { EditCheckbox, EditPlainButton, useLocked } from '../shared/edit';
import bands from './bands.module.css';

/** What a band is held by: the place in which another can be dropped, and its own handle. It shows at which of its edges that one would land. */
export function useBandHold(rig: RigDocument, id: string) {
  const disabled = useLocked();
  const { attributes, listeners, setNodeRef: setHandle, isDragging } = useDraggable({ id, disabled, attributes: { roleDescription: 'band that can be moved' } });
  const { setNodeRef: setPlace, isOver, active } = useDroppable({ id });
  const lands = isOver && !isDragging && active ? (landsBehind(rig, String(active.id), id) ? 'behind' : 'before') : undefined;
  return { setPlace, handle: { ref: setHandle, ...attributes, ...listeners }, band: { 'data-lands': lands, 'data-dragging': isDragging } };
}

interface BandHoldProps {
  name: string;
  marked: boolean;
  handle: ReturnType<typeof useBandHold>['handle'];
  onMark: (through: boolean) => void;
}

/** The mark and the handle at the left of a band. */
export function BandHold({ name, marked, handle, onMark }: BandHoldProps) {
  return (
    <span className={bands.bandHold}>
      <EditCheckbox aria-label={`Mark ${name}`} checked={marked} onChange={({ nativeEvent }) => onMark((nativeEvent as MouseEvent).shiftKey)} />
      <EditPlainButton type="button" className={bands.bandHandle} {...handle} aria-label={`Move ${name}`}>
        ⠿
      </EditPlainButton>
    </span>
  );
}
