import { useDraggable } from '@dnd-kit/core';
import type { ControlKind } from '../../../core/rig/document';
import { CONTROL_KINDS } from '../../../core/surface/controlKinds';
import { useLocked } from '../shared/edit';
import { Glyph } from './Glyph';
import styles from './Tray.module.css';

interface TrayProps {
  /** Kinds that may not be placed where the designer is now. */
  without: readonly ControlKind[];
  onMake: (kind: ControlKind) => void;
}

/** All kinds of controls: a press places one where there is room, a drag where it is let go. */
export function Tray({ without, onMake }: TrayProps) {
  return (
    <div className={styles.tray} data-tray role="group" aria-label="Controls">
      {(Object.keys(CONTROL_KINDS) as ControlKind[])
        .filter((kind) => !without.includes(kind))
        .map((kind) => (
          <TrayItem key={kind} kind={kind} onMake={() => onMake(kind)} />
        ))}
    </div>
  );
}

function TrayItem({ kind, onMake }: { kind: ControlKind; onMake: () => void }) {
  const disabled = useLocked();
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: kind, disabled });
  const { name, about } = CONTROL_KINDS[kind];
  return (
    <button ref={setNodeRef} type="button" disabled={disabled} data-carried={isDragging} title={`${name}: ${about}`} {...listeners} onClick={onMake}>
      <Glyph kind={kind} />
      <span>{name}</span>
    </button>
  );
}
