import { Button } from 'antd';
import type { CombineHow } from '../../../core/rig/combine';
import type { RigPreview } from '../../../protocol/rigPreview';
import { useInputsState } from '../../live/useLiveFacts';
import { EditButton } from '../shared/edit';
import rigs from './rigs.module.css';
import shared from '../shared/shared.module.css';

interface ImportPreviewProps {
  file: string;
  preview: RigPreview;
  onTake: (thenOpen: boolean) => void;
  /** Looks at what it would change in the open rig, beside what is there or in its place. */
  onCombine: (how: CombineHow) => void;
  onLeave: () => void;
}

/** What a file holds, its clashes, and which of its devices are not here, before anything changes. */
export function ImportPreview({ file, preview, onTake, onCombine, onLeave }: ImportPreviewProps) {
  const state = useInputsState();
  const missing = preview.feeds.filter(({ kind, report }) => !state?.feeds.some((feed) => feed.kind === kind && feed.report === report && feed.state !== 'gone'));
  const counts = Object.entries(preview.counts).map(([what, count]) => `${count} ${count === 1 ? what.replace(/s$/, '') : what}`);
  return (
    <section className={rigs.import} aria-label={`Import of ${file}`}>
      <h2>
        {preview.name} <small>from {file}</small>
      </h2>
      <p>{counts.join(', ')}.</p>
      {preview.clashes.length > 0 && (
        <>
          <p data-state="clash">✕ {preview.clashes.length === 1 ? 'One mapping is' : `${preview.clashes.length} mappings are`} in a clash:</p>
          <ul>
            {preview.clashes.slice(0, 6).map((clash) => (
              <li key={clash}>{clash}</li>
            ))}
            {preview.clashes.length > 6 && <li>… and {preview.clashes.length - 6} more.</li>}
          </ul>
        </>
      )}
      {missing.length > 0 && <p>Not here now: {missing.map(({ name, kind }) => `${name} (${kind})`).join(', ')}. They join as soon as they are heard.</p>}
      <div className={shared.actions}>
        <EditButton type="primary" onClick={() => onTake(true)}>
          Take it in and open it
        </EditButton>
        <Button onClick={() => onTake(false)}>Take it in</Button>
        <EditButton onClick={() => onCombine('beside')}>
          Add it to the open rig
        </EditButton>
        <EditButton onClick={() => onCombine('putBack')}>
          Replace what the open rig has of it
        </EditButton>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </section>
  );
}
