import { MEMBERS_MOST } from '../../../core/receivers/layout';
import { channelsOf, POLY_MOST, PRIORITIES, STEALS, type Priority, type Steal, type VoiceLayout } from '../../../core/voices/layout';
import { runFrom } from '../outputs/receiverText';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { OSC_ADDRESS_MOST } from '../../../core/messages/osc';
import { addressFrom } from '../shared/fromText';
import { EditSelect, EditSwitch } from '../shared/edit';
import { TextField } from '../shared/TextField';

const KINDS = [
  { value: 'lower', label: 'MPE, lower zone' },
  { value: 'upper', label: 'MPE, upper zone' },
  { value: 'run', label: 'a run of channels, a voice each' },
  { value: 'poly', label: 'one channel, several at once' },
  { value: 'mono', label: 'one channel, one at a time' },
] as const;

const STEAL_WORDS: Record<Steal, string> = { oldest: 'the oldest goes', quietest: 'the quietest goes', notLowest: 'the oldest goes, never the lowest', refuse: 'the new one is silent' };
const PRIORITY_WORDS: Record<Priority, string> = { last: 'the last', highest: 'the highest', lowest: 'the lowest' };
const VOICES = 16;

/** Where the voices go, and what happens where there are more than fit. */
export function LayoutFields({ layout, onChange }: { layout: VoiceLayout; onChange: (layout: VoiceLayout) => void }) {
  const steal = 'steal' in layout ? layout.steal : 'oldest';
  const [channel = 1] = channelsOf(layout);
  const choose = (kind: (typeof KINDS)[number]['value']) => {
    switch (kind) {
      case 'lower':
      case 'upper':
        return onChange({ kind: 'zone', zone: kind, members: layout.kind === 'zone' ? layout.members : MEMBERS_MOST, steal });
      case 'run':
        return onChange({ kind: 'run', first: 1, last: 16, steal });
      case 'poly':
        return onChange({ kind: 'poly', channel, voices: VOICES, steal });
      case 'mono':
        return onChange({ kind: 'mono', channel, priority: 'last', legato: true, glideMs: 0 });
    }
  };
  return (
    <>
      {layout.kind === 'osc' ? (
        <Field label="Address">
          <TextField label="OSC address above the voices" maxLength={OSC_ADDRESS_MOST} value={layout.address} parse={addressFrom} onChange={(address) => onChange({ ...layout, address })} />
        </Field>
      ) : (
      <Field label="Voices go to">
        <EditSelect aria-label="Voices go to" value={layout.kind === 'zone' ? layout.zone : layout.kind} options={[...KINDS]} onChange={choose} />
      </Field>
      )}
      {layout.kind === 'zone' && (
        <Field label="Members">
          <NumberBox label="Member channels" whole value={layout.members} min={1} max={MEMBERS_MOST} onChange={(members) => onChange({ ...layout, members })} />
        </Field>
      )}
      {layout.kind === 'run' && (
        <Field label="Channels">
          <TextField label="Channels of the run" maxLength={20} value={`${layout.first} to ${layout.last}`} parse={runFrom} onChange={([first, last]) => onChange({ ...layout, first, last })} />
        </Field>
      )}
      {(layout.kind === 'poly' || layout.kind === 'mono') && (
        <Field label="Channel">
          <NumberBox label="Channel" whole value={layout.channel} min={1} max={16} onChange={(next) => onChange({ ...layout, channel: next })} />
        </Field>
      )}
      {(layout.kind === 'poly' || layout.kind === 'osc') && (
        <Field label="At once">
          <NumberBox label="Voices at once" whole value={layout.voices} min={1} max={POLY_MOST} onChange={(voices) => onChange({ ...layout, voices })} />
        </Field>
      )}
      {layout.kind === 'mono' ? (
        <>
          <Field label="Of several">
            <EditSelect aria-label="Of several held voices" value={layout.priority} options={PRIORITIES.map((value) => ({ value, label: PRIORITY_WORDS[value] }))} onChange={(priority) => onChange({ ...layout, priority })} />
          </Field>
          <Field label="Legato">
            <EditSwitch aria-label="Legato" checked={layout.legato} onChange={(legato) => onChange({ ...layout, legato })} />
          </Field>
          <Field label="Glide (ms)">
            <NumberBox label="Glide in ms" value={layout.glideMs} min={0} max={10_000} step={10} onChange={(glideMs) => onChange({ ...layout, glideMs })} />
          </Field>
        </>
      ) : (
        <Field label="When all are taken">
          <EditSelect aria-label="When all are taken" value={layout.steal} options={STEALS.map((value) => ({ value, label: STEAL_WORDS[value] }))} onChange={(next) => onChange({ ...layout, steal: next })} />
        </Field>
      )}
    </>
  );
}
