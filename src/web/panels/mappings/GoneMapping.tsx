import { Button } from 'antd';
import { usePanel } from '../shared/usePanel';
import shaping from './shaping.module.css';

/** What stands where the shaping of a mapping was that is gone now. */
export function GoneMapping({ name, onClose }: { name: string; onClose: () => void }) {
  const panel = usePanel<HTMLElement>(onClose);
  return (
    <aside ref={panel} tabIndex={-1} className={shaping.shaping} aria-label={`Shaping of ${name}`}>
      <p role="alert">{name} was removed, here or in another window; undo (Ctrl+Z) brings it back as it was.</p>
      <Button onClick={onClose}>Close</Button>
    </aside>
  );
}
