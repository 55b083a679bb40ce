'use client';

import { useEffect, useState } from 'react';
import { useRig } from '../shell/useRig';
import { MappingBand } from './MappingBand';
import { ShapingPanel } from './ShapingPanel';

export function MappingsPanel() {
  const { document: rig } = useRig();
  const [selectedId, select] = useState<string | null>(null);
  // The ledger and others lead here with the mapping behind the #.
  useEffect(() => {
    const follow = () => {
      const id = decodeURIComponent(window.location.hash.slice(1));
      if (id !== '') select(id);
    };
    follow();
    addEventListener('hashchange', follow);
    return () => removeEventListener('hashchange', follow);
  }, []);
  const selected = rig.mappings.find(({ id }) => id === selectedId);
  const on = rig.mappings.filter((mapping) => mapping.on).length;
  return (
    <div className="mappings" data-open={selected !== undefined}>
      <section aria-labelledby="mappings-title">
        <h1 id="mappings-title">
          Mappings <small>{on === rig.mappings.length ? `${on}, all on` : `${on} of ${rig.mappings.length} on`}</small>
        </h1>
        {rig.mappings.length === 0 && <p>This rig has no mappings yet.</p>}
        <ul className="bands">
          {rig.mappings.map((mapping) => (
            <MappingBand
              key={mapping.id}
              mapping={mapping}
              rig={rig}
              selected={mapping.id === selectedId}
              onSelect={() => select(mapping.id === selectedId ? null : mapping.id)}
            />
          ))}
        </ul>
      </section>
      {selected && <ShapingPanel mapping={selected} rig={rig} onClose={() => select(null)} />}
    </div>
  );
}
