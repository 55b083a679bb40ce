import { useEffect } from 'react';
import { letterOf } from '../../live/keys';
import { useRigStore } from '../../live/RigProvider';
import { EditPlainButton } from '../shared/edit';
import { useRig } from './useRig';
import styles from './UndoButtons.module.css';

/** Takes edits back and makes them again, by button or by Ctrl+Z and Ctrl+Shift+Z; a text field keeps its own undo. */
export function UndoButtons() {
  const { undo, redo } = useRig();
  const store = useRigStore();
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || letterOf(event) !== 'z' || isText(event.target)) return;
      event.preventDefault();
      store.step(event.shiftKey ? 'redo' : 'undo');
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [store]);
  return (
    <div className={styles.undo}>
      <EditPlainButton type="button" disabled={undo === null} title={undo === null ? 'Nothing to undo' : `Undo ${undo} (Ctrl+Z)`} aria-label={undo === null ? 'Undo' : `Undo ${undo}`} onClick={() => store.step('undo')}>
        <svg viewBox="0 0 24 24" aria-hidden>
          <path d="M8 5 4 9l4 4M4 9h10a5 5 0 0 1 0 10h-3" />
        </svg>
      </EditPlainButton>
      <EditPlainButton type="button" disabled={redo === null} title={redo === null ? 'Nothing to redo' : `Redo ${redo} (Ctrl+Shift+Z)`} aria-label={redo === null ? 'Redo' : `Redo ${redo}`} onClick={() => store.step('redo')}>
        <svg viewBox="0 0 24 24" aria-hidden>
          <path d="m16 5 4 4-4 4M20 9H10a5 5 0 0 0 0 10h3" />
        </svg>
      </EditPlainButton>
    </div>
  );
}

/** Fields where typing has an undo of its own: not switches and sliders. */
function isText(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || target.tagName === 'TEXTAREA' || (target instanceof HTMLInputElement && !target.readOnly && ['text', 'search', 'number', ''].includes(target.type)));
}
