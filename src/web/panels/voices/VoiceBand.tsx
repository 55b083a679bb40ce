import { memo } from 'react';
import type { RigDocument } from '../../../core/rig/document';
import { findStream } from '../../../core/rig/find';
import type { RigVoiceMapping } from '../../../core/rig/voices';
import { layoutInShort } from '../../../core/voices/layoutWords';
import { pullInWords } from '../../../core/voices/waysOfPlaying';
import { useMappingState } from '../../live/useLiveFacts';
import { BandHold, useBandHold } from '../mappings/BandHold';
import { HeardWords } from '../mappings/HeardWords';
import { placed, type RowPlace } from '../mappings/rowPlace';
import { EditSwitch } from '../shared/edit';
import { useEdit } from '../shell/useRig';
import { SoundingCount } from './SoundingCount';
import { VoicePicture } from './VoicePicture';
import styles from './voices.module.css';
import bands from '../mappings/bands.module.css';

interface VoiceBandProps extends RowPlace {
  mapping: RigVoiceMapping;
  rig: RigDocument;
  selected: boolean;
  marked: boolean;
  onSelect: (id: string | null) => void;
  onMark: (id: string, through: boolean) => void;
}

/** One voice mapping, read from left to right as a mapping is: the stream, its voices, the layout, what sounds. */
export const VoiceBand = memo(function VoiceBand({ mapping, rig, selected, marked, onSelect, onMark, ...place }: VoiceBandProps) {
  const edit = useEdit();
  const { id, name, on, layout } = mapping;
  const { setPlace, handle, band } = useBandHold(rig, id);
  const stream = findStream(rig, mapping.stream)!;
  const output = rig.outputs.find((candidate) => candidate.id === mapping.output)!;
  const silenced = useMappingState(id, (state) => on && state?.sends === false);
  return (
    <li ref={setPlace} data-band className={bands.band} {...placed(place)} data-selected={selected} data-off={!on || silenced} {...band}>
      <button type="button" className={bands.bandOpen} aria-pressed={selected} aria-label={`Shape ${name}`} onClick={() => onSelect(selected ? null : id)} />
      <BandHold name={name} marked={marked} handle={handle} onMark={(through) => onMark(id, through)} />
      <div className={bands.bandSignal}>
        <strong>
          <span className={styles.mark} aria-hidden>
            ≋
          </span>{' '}
          {name}
        </strong>
        <span>
          {stream.from} · {stream.name}
        </span>
      </div>
      <VoicePicture id={id} className={bands.bandPicture} />
      <div className={bands.bandMessage}>
        <strong>{layoutInShort(layout)}</strong>
        <span>
          {output.name} · {pullInWords(mapping.pitch.pull)}
        </span>
      </div>
      <div className={bands.bandLeaving}>
        <SoundingCount id={id} className={styles.count} />
        <HeardWords id={id} silenced={silenced} />
      </div>
      <EditSwitch aria-label={`${name} is on`} size="small" checked={on} onChange={(next) => edit({ kind: 'setVoiceMapping', voiceMapping: id, set: { on: next } })} />
    </li>
  );
});
