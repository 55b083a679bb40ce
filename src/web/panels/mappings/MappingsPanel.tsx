'use client';

import { Button } from 'antd';
import { useEffect, useState } from 'react';
import { useRig } from '../shell/useRig';
import { isTyping } from '../../live/isTyping';
import { MapByMoving } from './MapByMoving';
import { MappingBand } from './MappingBand';
import { ShapingPanel } from './ShapingPanel';

export function MappingsPanel() {
  const { document: rig, stage } = useRig();
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
  const [moving, setMoving] = useState(false);
  useEffect(() => {
    if (stage) return;
    const press = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 'm' && !event.ctrlKey && !event.metaKey && !event.altKey && !isTyping(event.target)) setMoving(true);
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [stage]);
  const selected = moving ? undefined : rig.mappings.find(({ id }) => id === selectedId);
  const on = rig.mappings.filter((mapping) => mapping.on).length;
  return (
    <div className="mappings" data-open={selected !== undefined || moving}>
      <section aria-labelledby="mappings-title">
        <div className="mappings-head">
        <h1 id="mappings-title">
          Mappings <small>{on === rig.mappings.length ? `${on}, all on` : `${on} of ${rig.mappings.length} on`}</small>
        </h1>
        <Button type="primary" disabled={stage} onClick={() => setMoving(true)}>
          Map by moving <kbd>M</kbd>
        </Button>
        </div>
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
      {moving && !stage && (
        <MapByMoving
          onClose={() => setMoving(false)}
          onDone={(id) => {
            setMoving(false);
            select(id);
          }}
        />
      )}
      {selected && <ShapingPanel mapping={selected} rig={rig} onClose={() => select(null)} />}
    </div>
  );
}
