import { Switch } from 'antd';
import { addressInWords, smoothingInWords } from '../../../core/mapping/words';
import type { RigDocument, RigMapping } from '../../../core/rig/document';
import { findSignal } from '../../../core/rig/find';
import { TraceCanvas } from '../shared/TraceCanvas';
import { useEdit, useRig } from '../shell/useRig';
import { LeavingMeter } from './LeavingMeter';
import { ShapingPicture } from './ShapingPicture';

interface MappingBandProps {
  mapping: RigMapping;
  rig: RigDocument;
  selected: boolean;
  onSelect: () => void;
}

/** One mapping, read from left to right: the signal, its shaping, the message, what leaves. */
export function MappingBand({ mapping, rig, selected, onSelect }: MappingBandProps) {
  const { stage } = useRig();
  const edit = useEdit();
  const { signal, from } = findSignal(rig, mapping.signal)!;
  const output = rig.outputs.find(({ id }) => id === mapping.output)!;
  return (
    <li className="band" data-selected={selected} data-off={!mapping.on}>
      <button type="button" className="band-open" aria-pressed={selected} aria-label={`Shape ${mapping.name}`} onClick={onSelect} />
      <div className="band-signal">
        <strong>{mapping.name}</strong>
        <span>
          {from} · {signal.name}
        </span>
      </div>
      <TraceCanvas signal={signal} />
      <ShapingPicture mapping={mapping} signal={signal} />
      <div className="band-message">
        <strong>{addressInWords(mapping.message)}</strong>
        <span>
          {output.name} · {smoothingInWords(mapping.shaping.smoothing)}
        </span>
      </div>
      <LeavingMeter mapping={mapping} />
      <Switch
        aria-label={`${mapping.name} is on`}
        size="small"
        disabled={stage}
        checked={mapping.on}
        onChange={(on) => edit({ kind: 'setMapping', mapping: mapping.id, set: { on } })}
      />
    </li>
  );
}
