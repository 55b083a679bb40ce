'use client';

import { useRig } from '../shell/useRig';
import { Monitor } from './Monitor';
import { ReceiverCard } from './ReceiverCard';

/** What is being played, what each receiver hears right now, and everything that enters and leaves. */
export function OutputsPanel() {
  const { document: rig } = useRig();
  return (
    <div className="outputs">
      <section aria-labelledby="outputs-title">
        <h1 id="outputs-title">Outputs</h1>
        {rig.outputs.length === 0 && <p>This rig has no outputs yet.</p>}
        <div className="receivers">
          {rig.outputs.map((output) => (
            <ReceiverCard key={output.id} output={output} rig={rig} />
          ))}
        </div>
      </section>
      <Monitor />
    </div>
  );
}
