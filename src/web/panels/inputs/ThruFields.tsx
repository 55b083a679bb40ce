import { MIDI_THRU_KINDS, type MidiThru } from '../../../core/inputs/kinds/midi';
import { noteName } from '../../../core/midi/describe';
import type { RigOutput } from '../../../core/outputs/kinds';
import { outputsTaking } from '../../../core/rig/outputs';
import { Labelled } from '../shared/Field';
import { EditSelect, EditSwitch } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { useRig } from '../shell/useRig';

const CHANNELS = Array.from({ length: 16 }, (_, i) => i + 1);

/** What goes straight through to an output. */
export function ThruFields({ thru, onChange }: { thru: MidiThru | undefined; onChange: (thru: MidiThru | null) => void }) {
  const { document: rig } = useRig();
  const midiOutputs = outputsTaking(rig, 'midi');
  const [first] = midiOutputs;
  if (!first) return null;
  return (
    <>
      <h3>Thru</h3>
      <Labelled label="Straight through">
        <EditSwitch checked={thru !== undefined} onChange={(on) => onChange(on ? { output: first.id, channels: CHANNELS, kinds: ['notes', 'controllers', 'bend', 'pressure'] } : null)} />
      </Labelled>
      {thru && (
        <>
          <Labelled label="To">
            <EditSelect aria-label="Thru to" value={thru.output} options={midiOutputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={(output) => onChange({ ...thru, output })} />
          </Labelled>
          <Labelled label="Channels">
            <EditSelect aria-label="Thru channels" mode="multiple" maxTagCount="responsive" value={thru.channels} options={CHANNELS.map((value) => ({ value, label: value }))} onChange={(channels) => onChange({ ...thru, channels })} />
          </Labelled>
          <Labelled label="What">
            <EditSelect aria-label="Thru kinds" mode="multiple" value={thru.kinds} options={MIDI_THRU_KINDS.map((value) => ({ value, label: value }))} onChange={(kinds) => onChange({ ...thru, kinds })} />
          </Labelled>
          <Labelled label="Transposed by">
            <NumberBox label="Thru transposed by, in semitones" value={thru.transpose ?? 0} min={-127} max={127} step={1} onChange={(transpose) => onChange(without({ ...thru, transpose }, transpose === 0 ? 'transpose' : null))} />
          </Labelled>
          <Labelled label="On channel">
            <EditSelect
              aria-label="Thru on channel"
              value={thru.channel ?? 0}
              options={[{ value: 0, label: 'its own' }, ...CHANNELS.map((value) => ({ value, label: String(value) }))]}
              onChange={(channel) => onChange(without({ ...thru, channel }, channel === 0 ? 'channel' : null))}
            />
          </Labelled>
          <Split thru={thru} outputs={midiOutputs} onChange={onChange} />
        </>
      )}
    </>
  );
}

const MIDDLE_C = 60;

/** The keyboard in two: notes below one go elsewhere. */
function Split({ thru, outputs, onChange }: { thru: MidiThru; outputs: readonly RigOutput[]; onChange: (thru: MidiThru) => void }) {
  const { split, ...whole } = thru;
  const set = (to: Partial<NonNullable<MidiThru['split']>>) => onChange({ ...whole, split: { ...split!, ...to } });
  return (
    <>
      <Labelled label="Split">
        <EditSwitch aria-label="Split the keyboard" checked={split !== undefined} onChange={(on) => onChange(on ? { ...whole, split: { below: MIDDLE_C, output: outputs.find(({ id }) => id !== thru.output)?.id ?? thru.output } } : whole)} />
      </Labelled>
      {split && (
        <>
          <Labelled label={`Below ${noteName(split.below)}`}>
            <NumberBox label="Split below note" whole value={split.below} min={0} max={127} onChange={(below) => set({ below })} />
          </Labelled>
          <Labelled label="These go to">
            <EditSelect aria-label="Notes below go to" value={split.output} options={outputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={(output) => set({ output })} />
          </Labelled>
          <Labelled label="Transposed by">
            <NumberBox label="Notes below transposed by, in semitones" value={split.transpose ?? 0} min={-127} max={127} step={1} onChange={(transpose) => set({ transpose })} />
          </Labelled>
        </>
      )}
    </>
  );
}

function without(thru: MidiThru, field: 'transpose' | 'channel' | null): MidiThru {
  const kept = { ...thru };
  if (field) delete kept[field];
  return kept;
}
