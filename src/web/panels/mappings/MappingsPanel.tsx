'use client';

import { Button } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { useRig } from '../shell/useRig';
import { isTyping } from '../../live/isTyping';
import { MapByMoving } from './MapByMoving';
import { ALL, filtered, type Filter } from '../../../core/mapping/filter';
import { SceneStrip } from '../scenes/SceneStrip';
import { MappingBand } from './MappingBand';
import { MappingFilter } from './MappingFilter';
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
  const [filter, setFilter] = useState<Filter>(ALL);
  const shown = useMemo(() => filtered(rig, stage ? ALL : filter), [rig, filter, stage]);
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
        <SceneStrip />
        {!stage && <MappingFilter rig={rig} filter={filter} shown={shown.length} onChange={setFilter} />}
        {rig.mappings.length === 0 && <p className="empty">This rig has no mappings yet: press M and move something.</p>}
        {rig.mappings.length > 0 && shown.length === 0 && <p className="empty">No mapping is like that.</p>}
        <ul className="bands">
          {shown.map((mapping) => (
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
      {selected && <ShapingPanel mapping={selected} rig={rig} onOpen={select} onClose={() => select(null)} />}
    </div>
  );
}
