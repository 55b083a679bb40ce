import { useEffect, useState } from 'react';
import { isTyping } from '../../live/isTyping';
import { Dialog } from '../shared/Dialog';
import styles from './KeyList.module.css';

const KEYS = [
  { where: 'Everywhere', keys: [['F8', 'Panic: everything falls silent'], ['R', 'Record a take, and end it'], ['K', 'While it is recorded: mark this moment'], ['Shift+R', 'End it and begin the next at once'], ['Ctrl+Z', 'Undo'], ['Ctrl+Shift+Z', 'Redo'], ['Esc', 'End an introduction, leave what is open, have the pointer back'], ['?', 'This list']] },
  { where: 'Mappings', keys: [['M', 'Map by moving'], ['1 to 9', 'Recall a scene'], ['Tab, Enter', 'Go through the bands, open one'], ['Shift+click', 'On a mark: mark all between'], ['Space, arrows, Space', 'On ⠿: carry a band to another place']] },
  { where: 'Canvas of a surface', keys: [['Arrows', 'Move what is marked; with Shift ten times as far'], ['Page up, Page down', 'From control to control'], ['Ctrl+A, Shift+click', 'Mark all; mark one more'], ['Ctrl+C, X, V, D', 'Copy, cut, paste, double'], ['Ctrl+G, Ctrl+Shift+G', 'Group, ungroup'], ['Delete, Esc', 'Take away; mark nothing'], ['Enter', 'Open a fold-out'], ['Alt while dragging', 'Snap to nothing']] },
  { where: 'Pictures', keys: [['Arrows', 'Move a point or an end; with Shift ten times as far'], ['Delete', 'Take a point of a curve away']] },
  { where: 'Takes', keys: [['Space', 'Play from the line, stop'], ['← →', 'Go along; with Shift ten times as far'], ['+ −', 'Closer, wider'], ['Home, End', 'To the beginning, to the end'], ['F', 'See all of it']] },
  { where: 'Ledger', keys: [['← →', 'From controller to controller of a channel'], ['Page up, Page down', 'By sixteen']] },
  { where: 'Stage', keys: [['1 to 9', 'Recall a scene'], ['Hold Space', 'On “Hold for Bench”: back to the Bench']] },
] as const;

/** Every key that does something, on `?`. */
export function KeyList() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent) => event.key === '?' && !isTyping(event.target) && setOpen(true);
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, []);
  if (!open) return null;
  return (
    <Dialog title="Keys" footer={null} onCancel={() => setOpen(false)}>
      {KEYS.map(({ where, keys }) => (
        <section key={where} className={styles.keyList}>
          <h3>{where}</h3>
          <dl>
            {keys.map(([key, what]) => (
              <div key={key}>
                <dt>
                  <kbd>{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Dialog>
  );
}
