import { memo, useMemo } from 'react';
import { smoothingInWords } from '../../../core/mapping/words';
import type { RigDocument, RigMapping } from '../../../core/rig/document';
import { findSignal } from '../../../core/rig/find';
import { useMappingState } from '../../live/useLiveFacts';
import { useEdit } from '../shell/useRig';
import { BandHold, useBandHold } from './BandHold';
import { HeardWords } from './HeardWords';
import { placed, type RowPlace } from './rowPlace';
import { LeavingMeter } from '../shared/LeavingMeter';
import { Pictured } from '../shared/Pictured';
import { addressInWords } from '../../../core/messages';
import { EditSwitch } from '../shared/edit';
import bands from './bands.module.css';

/** The height of a band, on which the list counts. */
export const BAND_PX = 62;

interface MappingBandProps extends RowPlace {
  mapping: RigMapping;
  rig: RigDocument;
  selected: boolean;
  marked: boolean;
  onSelect: (id: string | null) => void;
  onMark: (id: string, through: boolean) => void;
}

/** One mapping, read from left to right: the signal, its shaping, the message, what leaves. */
export const MappingBand = memo(function MappingBand({ mapping, rig, selected, marked, onSelect, onMark, ...place }: MappingBandProps) {
  const edit = useEdit();
  const { id, name, on } = mapping;
  const { setPlace, handle, band } = useBandHold(rig, id);
  const { signal, from } = findSignal(rig, mapping.signal)!;
  const output = rig.outputs.find((candidate) => candidate.id === mapping.output)!;
  const picture = useMemo(() => ({ kind: 'band' as const, mapping, signal }), [mapping, signal]);
  const silenced = useMappingState(id, (state) => on && state?.sends === false);
  return (
    <li ref={setPlace} data-band className={bands.band} {...placed(place)} data-selected={selected} data-off={!on || silenced} {...band}>
      <button type="button" className={bands.bandOpen} aria-pressed={selected} aria-label={`Shape ${name}`} onClick={() => onSelect(selected ? null : id)} />
      <BandHold name={name} marked={marked} handle={handle} onMark={(through) => onMark(id, through)} />
      <div className={bands.bandSignal}>
        <strong>
          {name}
          {mapping.remark !== undefined && (
            <span className={bands.bandRemark} title={mapping.remark}>
              {' '}
              ✎
            </span>
          )}
        </strong>
        <span>
          {from} · {signal.name}
        </span>
      </div>
      <Pictured className={bands.bandPicture} picture={picture} />
      <div className={bands.bandMessage}>
        <strong>{addressInWords(mapping.message)}</strong>
        <span>
          {output.name} · {smoothingInWords(mapping.shaping.smoothing)}
        </span>
      </div>
      <div className={bands.bandLeaving}>
        <LeavingMeter mapping={mapping} />
        <HeardWords id={id} silenced={silenced} />
      </div>
      <EditSwitch aria-label={`${name} is on`} size="small" checked={on} onChange={(next) => edit({ kind: 'setMapping', mapping: id, set: { on: next } })} />
    </li>
  );
});
