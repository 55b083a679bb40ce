import { Button } from 'antd';
import type { ChangeSummary } from '../../../core/rig/changeSummary';
import type { CombineHow } from '../../../core/rig/combine';
import { EditButton } from '../shared/edit';
import rigs from './rigs.module.css';
import shared from '../shared/shared.module.css';

const SHOWN = 6;

interface CombinePreviewProps {
  name: string;
  how: CombineHow;
  summary: ChangeSummary;
  onTake: () => void;
  onLeave: () => void;
}

/** What a kit would change in the open rig, before it does. */
export function CombinePreview({ name, how, summary, onTake, onLeave }: CombinePreviewProps) {
  const lines = [sentence('adds', summary.added), sentence('replaces', summary.replaced), sentence('removes', summary.removed)].filter((line) => line !== null);
  return (
    <section className={rigs.import} aria-label={`What ${name} would change`}>
      <h3>{how === 'putBack' ? `${name}, put back as it was` : `${name}, added beside what is there`}</h3>
      <ul>
        {lines.length === 0 && <li>It changes nothing: everything is as it was.</li>}
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {summary.clashes.length > 0 && (
        <p data-state="clash">
          ✕ New clashes: {summary.clashes.slice(0, SHOWN).join(', ')}
          {summary.clashes.length > SHOWN && ` and ${summary.clashes.length - SHOWN} more`}. The ledger shows free numbers.
        </p>
      )}
      <div className={shared.actions}>
        <EditButton type="primary" onClick={onTake}>
          Do it
        </EditButton>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </section>
  );
}

const DERIVED = 'derived signals';

function sentence(verb: string, counts: ChangeSummary['added']): string | null {
  const parts = Object.entries(counts).map(([list, count]) => {
    const words = list === 'derived' ? DERIVED : list;
    return `${count} ${count === 1 ? words.replace(/s$/, '') : words}`;
  });
  return parts.length === 0 ? null : `It ${verb} ${parts.join(', ')}.`;
}
