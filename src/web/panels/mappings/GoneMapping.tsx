import { Button } from 'antd';

/** What stands where the shaping of a mapping was that is gone now. */
export function GoneMapping({ name, onClose }: { name: string; onClose: () => void }) {
  return (
    <aside className="shaping" aria-label={`Shaping of ${name}`}>
      <p role="alert">{name} was removed, here or in another window; undo (Ctrl+Z) brings it back as it was.</p>
      <Button onClick={onClose}>Close</Button>
    </aside>
  );
}
