'use client';

import { useCallback, useEffect, useMemo, useState } from 'react';
import { ALL, filtered, filteredVoices, type Filter } from '../../../core/mapping/filter';
import { VoicePanel } from '../voices/VoicePanel';
import { MapNotes } from '../voices/MapNotes';
import { isTyping } from '../../live/isTyping';
import { letterOf } from '../../live/keys';
import { useMappingStatesIf } from '../../live/useLiveFacts';
import { SceneStrip } from '../scenes/SceneStrip';
import { EditButton } from '../shared/edit';
import { useRig } from '../shell/useRig';
import { BandList } from './BandList';
import { DerivedPanel } from './DerivedPanel';
import { GoneMapping } from './GoneMapping';
import { IntroduceInTurn } from './IntroduceInTurn';
import { MapByMoving } from './MapByMoving';
import { MappingFilter } from './MappingFilter';
import { MarkedBar } from './MarkedBar';
import { ShapingPanel } from './ShapingPanel';
import { useRecentMoves } from './useRecentMoves';
import styles from './MappingsPanel.module.css';
import shared from '../shared/shared.module.css';

/** A mapping that was not heard for so long is silent. */
const SILENT_MS = 10_000;

/** What is open beside the bands. */
type Beside = { kind: 'shaping'; rig: string; id: string } | { kind: 'moving' } | { kind: 'derived' } | { kind: 'inTurn' } | null;

export function MappingsPanel() {
  const { id: rigId, document: rig, stage } = useRig();
  const [opened, open] = useState<Beside>(null);
  // What was open of another rig is not missing in this one.
  const beside = opened?.kind === 'shaping' && opened.rig !== rigId ? null : opened;
  const [filter, setFilter] = useState<Filter>(ALL);
  const [markedIds, setMarked] = useState<ReadonlySet<string>>(new Set());
  const recent = useRecentMoves(rig);
  const show = useCallback((id: string | null) => open(id === null ? null : { kind: 'shaping', rig: rigId, id }), [rigId]);
  useFollowingHash(show);
  // What is open stands in the address, so that Back, a reload and the way back from Stage find it.
  const select = useCallback(
    (id: string | null) => {
      writeHash(id);
      show(id);
    },
    [show],
  );
  useEffect(() => {
    if (stage) return;
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      if (letterOf(event) === 'm') open({ kind: 'moving' });
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [stage]);

  const isSilent = useSilent(!stage && filter.state === 'silent');
  const shown = useMemo(() => filtered(rig, stage ? ALL : filter, isSilent), [rig, filter, stage, isSilent]);
  const shownVoices = useMemo(() => filteredVoices(rig, stage ? ALL : filter, isSilent), [rig, filter, stage, isSilent]);
  const listed = useMemo(() => [...shown, ...shownVoices], [shown, shownVoices]);
  const marked = useMemo(() => new Set([...rig.mappings, ...rig.voiceMappings].filter(({ id }) => markedIds.has(id)).map(({ id }) => id)), [rig, markedIds]);
  const [lastMarked, setLastMarked] = useState<string | null>(null);
  const mark = useCallback((id: string, through: boolean) => {
    const from = listed.findIndex((mapping) => mapping.id === lastMarked);
    const to = listed.findIndex((mapping) => mapping.id === id);
    const between = through && from >= 0 ? listed.slice(Math.min(from, to), Math.max(from, to) + 1).map((mapping) => mapping.id) : [id];
    const next = new Set(marked);
    for (const one of between) if (marked.has(id)) next.delete(one);
    else next.add(one);
    setMarked(next);
    setLastMarked(id);
  }, [listed, marked, lastMarked]);
  const selected = beside?.kind === 'shaping' ? rig.mappings.find(({ id }) => id === beside.id) : undefined;
  const voices = beside?.kind === 'shaping' ? rig.voiceMappings.find(({ id }) => id === beside.id) : undefined;
  const selectedThing = selected ?? voices;
  // One that is just being made is not there yet; gone is only what was seen.
  const [seen, setSeen] = useState<{ rig: string; mapping: { id: string; name: string } } | null>(null);
  if (selectedThing && selectedThing !== seen?.mapping) setSeen({ rig: rigId, mapping: selectedThing });
  const gone = beside?.kind === 'shaping' && !selectedThing && seen?.rig === rigId && seen.mapping.id === beside.id ? seen.mapping : null;
  const all = [...rig.mappings, ...rig.voiceMappings];
  const on = all.filter((mapping) => mapping.on).length;
  const count = all.length;
  return (
    <div className={styles.mappings} data-open={beside?.kind === 'shaping' ? selectedThing !== undefined || gone !== null : beside !== null && !stage}>
      <section aria-labelledby="mappings-title">
        <div className={styles.mappingsHead}>
          <h1 id="mappings-title">
            Mappings <small>{on === count ? `${on}, all on` : `${on} of ${count} on`}</small>
          </h1>
          <span className={shared.actions}>
            <MapNotes onDone={select} />
            <EditButton disabled={count === 0} onClick={() => open({ kind: 'inTurn' })}>
              Introduce in turn
            </EditButton>
            <EditButton onClick={() => open({ kind: 'derived' })}>
              Derived signals
            </EditButton>
            <EditButton type="primary" onClick={() => open({ kind: 'moving' })}>
              Map by moving <kbd>M</kbd>
            </EditButton>
          </span>
        </div>
        <SceneStrip />
        {!stage && marked.size === 0 && <MappingFilter rig={rig} filter={filter} shown={shown.length + shownVoices.length} onChange={setFilter} />}
        {!stage && marked.size > 0 && <MarkedBar rig={rig} marked={marked} onClear={() => setMarked(new Set())} />}
        {count === 0 && <p className={shared.empty}>This rig has no mappings yet: press M and move something.</p>}
        {count > 0 && shown.length + shownVoices.length === 0 && <p className={shared.empty}>No mapping is like that.</p>}
        <BandList rig={rig} shown={shown} voices={shownVoices} selectedId={selectedThing?.id ?? null} marked={marked} onSelect={select} onMark={mark} />
      </section>
      {beside?.kind === 'moving' && !stage && <MapByMoving recent={recent} onClose={() => open(null)} onDone={select} />}
      {beside?.kind === 'inTurn' && !stage && <IntroduceInTurn shown={listed} onClose={() => open(null)} />}
      {beside?.kind === 'derived' && !stage && <DerivedPanel onClose={() => open(null)} />}
      {selected && <ShapingPanel key={selected.id} mapping={selected} rig={rig} onOpen={select} onClose={() => select(null)} />}
      {voices && <VoicePanel key={voices.id} mapping={voices} rig={rig} onOpen={select} onClose={() => select(null)} />}
      {gone && <GoneMapping name={gone.name} onClose={() => select(null)} />}
    </div>
  );
}

/** The ledger and others lead here with the mapping behind the #. */
function useFollowingHash(show: (id: string | null) => void): void {
  useEffect(() => {
    const idNow = () => {
      const { hash, pathname, search } = window.location;
      const last = hash.slice(hash.lastIndexOf('#') + 1);
      // The router doubles what stands behind the # of a page that it knows already.
      if (hash !== '' && hash !== `#${last}`) window.history.replaceState(null, '', `${pathname}${search}#${last}`);
      try {
        return decodeURIComponent(last);
      } catch {
        // Half a sequence: nothing that this program wrote.
        return '';
      }
    };
    const follow = () => show(idNow() || null);
    // Who comes from another screen is shown this one a moment before its address stands in the bar.
    const soon = setTimeout(() => idNow() !== '' && follow());
    addEventListener('hashchange', follow);
    addEventListener('popstate', follow);
    return () => {
      clearTimeout(soon);
      removeEventListener('hashchange', follow);
      removeEventListener('popstate', follow);
    };
  }, [show]);
}

function writeHash(id: string | null): void {
  const { hash, pathname, search } = window.location;
  const wanted = id === null ? '' : `#${encodeURIComponent(id)}`;
  if (hash !== wanted) window.history.pushState(null, '', `${pathname}${search}${wanted}`);
}

/** `asked`: somebody wants to know; only then is the screen drawn anew each second. */
function useSilent(asked: boolean): (mapping: string) => boolean {
  const states = useMappingStatesIf(asked);
  return useCallback(
    (mapping: string) => {
      const heardMs = states.get(mapping)?.heardMs ?? null;
      return heardMs === null || performance.now() - heardMs > SILENT_MS;
    },
    [states],
  );
}
