import type { ReactNode } from 'react';
import { ORDERS } from '../../../core/ensemble/theory/arpeggioOrder';
import { HARMONIC_MODES } from '../../../core/ensemble/theory/degrees';
import { readTuning, TUNINGS } from '../../../core/ensemble/theory/strings';
import { BASS_WAYS, type MemberPart, type PartKind, type PartOf, type RigMember } from '../../../core/ensemble/parts';
import { listenersOf } from '../../../core/ensemble/order';
import { ECHOES_MOST } from '../../../core/ensemble/kinds/echo';
import { noteName } from '../../../core/midi/describe';
import type { RigDocument } from '../../../core/rig/document';
import { EditSwitch } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { AccentSteps } from './AccentSteps';
import { BassSteps } from './BassSteps';
import { Choice, RateChoice, SignalChoice, StreamChoice, tonicsIn, withField } from './choices';
import { ChordFields } from './ChordFields';
import type { PartFieldsProps } from './partFieldsProps';

/** What a member does, by its kind. */
export function PartFields({ member, rig, onChange }: { member: RigMember; rig: RigDocument; onChange: (part: MemberPart) => void }) {
  const OfKind = FIELDS[member.part.kind] as (props: PartFieldsProps) => ReactNode;
  return <OfKind part={member.part} rig={rig} without={[member.id, ...listenersOf(rig, member.id)]} onChange={onChange} />;
}

const FIELDS: { [K in PartKind]: (props: PartFieldsProps<PartOf<K>>) => ReactNode } = { chord: ChordFields, strum: StrumFields, bass: BassFields, arpeggio: ArpeggioFields, pattern: PatternFields, stream: StreamFields, echo: EchoFields };

const percent = (share: number) => Math.round(share * 100);

function Percent({ label, value, most = 100, onChange }: { label: string; value: number; most?: number; onChange: (share: number) => void }) {
  return (
    <Field label={`${label} (%)`}>
      <NumberBox label={`${label} in percent`} min={0} max={most} whole value={percent(value)} onChange={(next) => onChange(next / 100)} />
    </Field>
  );
}

function Key({ label, value, onChange }: { label: string; value: number; onChange: (key: number) => void }) {
  return (
    <Field label={`${label}, ${noteName(value)}`}>
      <NumberBox label={`${label}, a key from 0 to 127`} min={0} max={127} whole value={value} onChange={onChange} />
    </Field>
  );
}

function While({ part, rig, onChange }: Pick<PartFieldsProps<MemberPart & { while?: string }>, 'part' | 'rig' | 'onChange'>) {
  return <SignalChoice label="Plays while" rig={rig} gates none="always" value={part.while} onChange={(gate) => onChange(withField(part, { while: gate } as Partial<typeof part>))} />;
}

function StrumFields({ part, rig, without, onChange }: PartFieldsProps<PartOf<'strum'>>) {
  const set = (change: { [K in keyof typeof part]?: (typeof part)[K] | undefined }) => onChange(withField(part, change));
  const tuned = Object.keys(TUNINGS).find((name) => TUNINGS[name]!.join() === part.tuning?.join());
  return (
    <>
      <StreamChoice label="Chord of" without={without} rig={rig} value={part.listens} onChange={(listens) => set({ listens })} />
      <SignalChoice label="Strip" none="none" rig={rig} value={part.across} onChange={(across) => set({ across })} />
      <SignalChoice label="Touched by" gates none="always on it" rig={rig} value={part.touch} onChange={(touch) => set({ touch })} />
      <SignalChoice label="All strings by" gates none="nothing" rig={rig} value={part.by} onChange={(by) => set({ by })} />
      <Choice
        label="Tuning"
        value={part.tuning ? (tuned ?? 'own') : 'chord'}
        options={[{ value: 'chord', label: 'to the chord' }, ...Object.keys(TUNINGS).map((name) => ({ value: name, label: name })), { value: 'own', label: 'my own' }]}
        onChange={(name) => set({ tuning: name === 'chord' ? undefined : name === 'own' ? (part.tuning ?? [...TUNINGS.guitar!]) : [...TUNINGS[name]!] })}
      />
      {part.tuning ? (
        <Field label="Open strings">
          <TextField label="Open strings, as keys from 0 to 127" maxLength={60} value={part.tuning.join(' ')} parse={readTuning} onChange={(tuning) => set({ tuning })} />
        </Field>
      ) : (
        <Field label="Strings">
          <NumberBox label="Strings" min={1} max={12} whole value={part.strings} onChange={(strings) => set({ strings })} />
        </Field>
      )}
      <Choice label="Directions" value={part.directions} options={['both', 'up', 'down']} onChange={(directions) => set({ directions })} />
      <Field label="Rings (ms)">
        <NumberBox label="How long a string rings in ms" min={10} max={60_000} value={part.ringMs} onChange={(ringMs) => set({ ringMs })} />
      </Field>
      <Choice label="Damped by" value={part.dampedBy} options={[{ value: 'nothing', label: 'nothing' }, { value: 'chord', label: 'the next chord' }, { value: 'letting go', label: 'letting go' }]} onChange={(dampedBy) => set({ dampedBy })} />
      <Field label="Hardest in (ms)">
        <NumberBox label="The whole strip in so many ms is as hard as can be" min={1} max={60_000} value={part.fullMs} onChange={(fullMs) => set({ fullMs })} />
      </Field>
    </>
  );
}

function BassFields({ part, rig, without, onChange }: PartFieldsProps<PartOf<'bass'>>) {
  const set = (change: Partial<typeof part>) => onChange({ ...part, ...change });
  return (
    <>
      <StreamChoice label="Chord of" rig={rig} without={without} value={part.listens} onChange={(listens) => set({ listens })} />
      <Choice label="Plays" value={part.way} options={BASS_WAYS.map((value) => ({ value, label: value === 'pattern' ? 'steps of its own' : value }))} onChange={(way) => set({ way })} />
      {part.way === 'pattern' && <BassSteps tones={part.tones} onChange={(tones) => set({ tones })} />}
      <RateChoice label="Step" value={part.everyBeats} onChange={(everyBeats) => set({ everyBeats })} />
      <Percent label="Length" most={400} value={part.length} onChange={(length) => set({ length: Math.max(0.05, length) })} />
      <Percent label="Strike" value={part.strike} onChange={(strike) => set({ strike })} />
      <Key label="From key" value={part.low} onChange={(low) => set({ low })} />
      <While part={part} rig={rig} onChange={(next) => onChange(next as typeof part)} />
    </>
  );
}

function ArpeggioFields({ part, rig, without, onChange }: PartFieldsProps<PartOf<'arpeggio'>>) {
  const set = (change: Partial<typeof part>) => onChange({ ...part, ...change });
  return (
    <>
      <StreamChoice label="Listens to" rig={rig} without={without} value={part.listens} onChange={(listens) => set({ listens })} />
      <Choice label="Order" value={part.order} options={ORDERS} onChange={(order) => set({ order })} />
      <Field label="Octaves">
        <NumberBox label="Octaves" min={1} max={4} whole value={part.octaves} onChange={(octaves) => set({ octaves })} />
      </Field>
      <RateChoice label="Step" value={part.everyBeats} onChange={(everyBeats) => set({ everyBeats })} />
      <Percent label="Length" most={400} value={part.length} onChange={(length) => set({ length: Math.max(0.05, length) })} />
      <AccentSteps accents={part.accents} onChange={(accents) => set({ accents })} />
      <Field label="Goes on when let go">
        <EditSwitch aria-label="Goes on when let go" checked={part.latch} onChange={(latch) => set({ latch })} />
      </Field>
      <While part={part} rig={rig} onChange={(next) => onChange(next as typeof part)} />
    </>
  );
}

function PatternFields({ part, rig, without, onChange }: PartFieldsProps<PartOf<'pattern'>>) {
  const set = (change: { [K in keyof typeof part]?: (typeof part)[K] | undefined }) => onChange(withField(part, change));
  const places = part.patterns.map(({ name }, value) => ({ value, label: name }));
  return (
    <>
      <RateChoice label="Step" value={part.everyBeats} onChange={(everyBeats) => set({ everyBeats })} />
      <Choice label="Plays now" value={Math.min(part.present, places.length - 1)} options={places} onChange={(present) => set({ present })} />
      <SignalChoice label="Chosen by" rig={rig} none="hand" value={part.chosenBy} onChange={(chosenBy) => set({ chosenBy })} />
      <SignalChoice label="Fills while" rig={rig} gates none="never" value={part.fill?.gate} onChange={(gate) => set({ fill: gate === undefined ? undefined : { gate, pattern: part.fill?.pattern ?? places.length - 1 } })} />
      {part.fill && <Choice label="Fill" value={part.fill.pattern} options={places} onChange={(pattern) => set({ fill: { ...part.fill!, pattern } })} />}
      <StreamOrNone part={part} rig={rig} without={without} onChange={onChange} />
      <While part={part} rig={rig} onChange={(next) => onChange(next as typeof part)} />
    </>
  );
}

function StreamOrNone({ part, rig, without, onChange }: PartFieldsProps<PartOf<'pattern'>>) {
  const options = [{ value: '', label: 'nobody: lanes play keys' }, ...[...rig.members, ...rig.streams].filter(({ id }) => !without.includes(id)).map(({ id, name }) => ({ value: id, label: name }))];
  return <Choice label="Tones of" value={part.listens ?? ''} options={options} onChange={(listens) => onChange(withField(part, { listens: listens === '' ? undefined : listens }))} />;
}

function StreamFields({ part, rig, onChange }: PartFieldsProps<PartOf<'stream'>>) {
  const set = (change: Partial<typeof part>) => onChange({ ...part, ...change });
  return (
    <>
      <SignalChoice label="Pitch from" rig={rig} value={part.pitch} onChange={(pitch) => pitch !== undefined && set({ pitch })} />
      <Key label="From key" value={part.low} onChange={(low) => set({ low })} />
      <Key label="To key" value={part.high} onChange={(high) => set({ high })} />
      <Choice label="Key" value={part.tonic} options={tonicsIn(part.mode)} onChange={(tonic) => set({ tonic })} />
      <Choice label="Scale" value={part.mode} options={['chromatic', ...HARMONIC_MODES]} onChange={(mode) => set({ mode: mode as typeof part.mode })} />
      <SignalChoice label="Plays" gates none="at each step" rig={rig} value={part.by} onChange={(by) => onChange(withField(part, { by, holds: by === undefined ? undefined : (part.holds ?? true) }))} />
      {part.by !== undefined && <Choice label="Note lasts" value={part.holds ? 'gate' : 'length'} options={[{ value: 'gate', label: 'as long as that is on' }, { value: 'length', label: 'its length' }]} onChange={(lasts) => onChange(withField(part, { holds: lasts === 'gate' || undefined }))} />}
      <RateChoice label="Step" value={part.everyBeats} onChange={(everyBeats) => set({ everyBeats })} />
      <SignalChoice label="Strike from" none="always the same" rig={rig} value={typeof part.strike === 'object' ? part.strike.signal : undefined} onChange={(signal) => set({ strike: signal === undefined ? 0.7 : { signal } })} />
      {typeof part.strike === 'number' && <Percent label="Strike" value={part.strike} onChange={(strike) => set({ strike })} />}
      <SignalChoice label="Length from" none="always the same" rig={rig} value={typeof part.length === 'object' ? part.length.signal : undefined} onChange={(signal) => set({ length: signal === undefined ? 0.8 : { signal } })} />
      {typeof part.length === 'number' && <Percent label="Length" most={400} value={part.length} onChange={(length) => set({ length: Math.max(0.05, length) })} />}
      <While part={part} rig={rig} onChange={(next) => onChange(next as typeof part)} />
    </>
  );
}

function EchoFields({ part, rig, without, onChange }: PartFieldsProps<PartOf<'echo'>>) {
  const set = (change: Partial<typeof part>) => onChange({ ...part, ...change });
  return (
    <>
      <StreamChoice label="Listens to" rig={rig} without={without} value={part.listens} onChange={(listens) => set({ listens })} />
      <Field label="Times">
        <NumberBox label="Times" min={1} max={ECHOES_MOST} whole value={part.times} onChange={(times) => set({ times })} />
      </Field>
      <RateChoice label="Every" value={part.everyBeats} onChange={(everyBeats) => set({ everyBeats })} />
      <Percent label="Each so loud" value={part.softer} onChange={(softer) => set({ softer })} />
      <Percent label="Each so likely" value={part.fewer} onChange={(fewer) => set({ fewer })} />
      <Field label="Transpose each">
        <NumberBox label="Transpose each in semitones" min={-48} max={48} whole value={part.transpose} onChange={(transpose) => set({ transpose })} />
      </Field>
    </>
  );
}

