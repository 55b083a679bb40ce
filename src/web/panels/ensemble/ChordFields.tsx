import { CHORD_BASSES, type ChordPart, type PartOf } from '../../../core/ensemble/parts';
import { chordOfDegree } from '../../../core/ensemble/kinds/chord';
import { DEGREES, HARMONIC_MODES } from '../../../core/ensemble/theory/degrees';
import { chordName } from '../../../core/ensemble/theory/names';
import { QUALITIES, type Quality } from '../../../core/ensemble/theory/qualities';
import { chordOf, readChord, tonesInWords } from '../../../core/ensemble/theory/readChord';
import { namesIn } from '../../../core/ensemble/theory/spelling';
import { SPREADS } from '../../../core/ensemble/theory/voicing';
import { findSignal } from '../../../core/rig/find';
import { noteName } from '../../../core/midi/describe';
import { EditButton, EditSegmented, EditSwitch } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { Choice, SignalChoice, StreamChoice, tonicsIn, withField } from './choices';
import type { PartFieldsProps } from './partFieldsProps';
import { useSoundingNow } from './useSoundingNow';
import styles from './ensemble.module.css';

const IN_THE_KEY = 'in the key';
const WAYS: readonly { value: ChordPart['from']['by']; label: string }[] = [
  { value: 'stream', label: 'keys or a voice' },
  { value: 'gates', label: 'gates, one each' },
  { value: 'signal', label: 'where a signal lies' },
];

/** Key and scale, who chooses the degree, what the chords are made of and how they lie. */
export function ChordFields({ part, rig, without, onChange }: PartFieldsProps<PartOf<'chord'>>) {
  const set = (change: { [K in keyof ChordPart]?: ChordPart[K] | undefined }) => onChange(withField(part, change));
  const { from } = part;
  const gates = rig.signals.filter((signal) => signal.kind === 'gate').slice(0, DEGREES).map(({ id }, i) => ({ gate: id, degree: i + 1 }));
  const stream = rig.streams.find(({ id }) => !without.includes(id))?.id;
  const signal = rig.signals.find((candidate) => candidate.kind === 'continuous')?.id;
  // Each begins with what there is; what there is nothing for cannot be chosen.
  const begins: { [K in ChordPart['from']['by']]: ChordPart['from'] | null } = {
    stream: stream === undefined ? null : { by: 'stream', stream },
    gates: gates.length === 0 ? null : { by: 'gates', gates },
    signal: signal === undefined ? null : { by: 'signal', signal },
  };
  return (
    <>
      <Choice label="Key" value={part.tonic} options={tonicsIn(part.mode)} onChange={(tonic) => set({ tonic })} />
      <Choice label="Scale" value={part.mode} options={HARMONIC_MODES} onChange={(mode) => set({ mode })} />
      <Choice label="Degree by" value={from.by} options={WAYS.map((way) => ({ ...way, disabled: way.value !== from.by && !begins[way.value] }))} onChange={(by) => by !== from.by && set({ from: begins[by]! })} />
      {from.by === 'stream' && <StreamChoice label="Voices of" rig={rig} without={without} value={from.stream} onChange={(stream) => set({ from: { by: 'stream', stream } })} />}
      {from.by === 'signal' && <SignalChoice label="Signal" rig={rig} value={from.signal} onChange={(signal) => signal !== undefined && set({ from: { ...from, signal } })} />}
      {from.by === 'signal' && <SignalChoice label="Sounds while" rig={rig} gates none="always" value={from.gate} onChange={(gate) => set({ from: withField(from, { gate }) })} />}
      {from.by === 'gates' &&
        Array.from({ length: DEGREES }, (_, i) => i + 1).map((degree) => {
          const others = from.gates.filter((known) => known.degree !== degree);
          return (
            <SignalChoice
              key={degree}
              label={`Degree ${degree}`}
              rig={rig}
              gates
              none="none"
              value={from.gates.find((known) => known.degree === degree)?.gate}
              onChange={(gate) => set({ from: { by: 'gates', gates: gate === undefined ? others : [...others, { gate, degree }].sort((a, b) => a.degree - b.degree) } })}
            />
          );
        })}
      <h3>Chords</h3>
      <Choice
        label="Kind"
        value={part.quality ?? IN_THE_KEY}
        options={[{ value: IN_THE_KEY, label: 'as the key has them' }, ...QUALITIES.map((value) => ({ value: value as string, label: value as string }))]}
        onChange={(quality) => set({ quality: quality === IN_THE_KEY ? undefined : (quality as Quality) })}
      />
      {part.quality === undefined && (
        <Field label="Tones">
          <EditSegmented aria-label="Tones of a chord" size="small" value={part.tones} options={[3, 4, 5, 6, 7]} onChange={(tones) => set({ tones })} />
        </Field>
      )}
      <ul className={styles.qualities} aria-label="Other kinds while a gate is on">
        {(part.qualities ?? []).map(({ gate, quality }, i) => (
          <li key={`${i} ${gate}`}>
            {quality} while {findSignal(rig, gate)?.signal.name ?? gate}
            <EditButton size="small" type="text" aria-label={`No ${quality} any more`} onClick={() => set({ qualities: part.qualities!.toSpliced(i, 1) })}>
              ✕
            </EditButton>
          </li>
        ))}
      </ul>
      <SignalChoice label="Another kind while" rig={rig} gates none="add one…" value={undefined} onChange={(gate) => gate !== undefined && set({ qualities: [...(part.qualities ?? []), { gate, quality: '7' }] })} />
      {(part.qualities ?? []).length > 0 && <LastQuality part={part} onChange={(qualities) => set({ qualities })} />}
      <Field label="Moves the least">
        <EditSwitch aria-label="The inversion that moves the least" checked={part.leads} onChange={(leads) => set({ leads })} />
      </Field>
      {!part.leads && (
        <Field label="Inversion">
          <NumberBox label="Inversion" min={0} max={6} whole value={part.inversion} onChange={(inversion) => set({ inversion })} />
        </Field>
      )}
      <Choice label="Lies" value={part.spread} options={SPREADS} onChange={(spread) => set({ spread })} />
      <Choice label="Bass tone" value={part.bass} options={CHORD_BASSES} onChange={(bass) => set({ bass })} />
      <Field label={`From key, ${noteName(part.low)}`}>
        <NumberBox label="From key, 0 to 127" min={0} max={127} whole value={part.low} onChange={(low) => set({ low })} />
      </Field>
      <Choice
        label="Let go of, stays"
        value={part.stays}
        options={[{ value: 'nothing', label: 'nothing' }, { value: 'for others', label: 'the chord, for others' }, { value: 'sounding', label: 'its sound, until the next' }]}
        onChange={(stays) => set({ stays })}
      />
      <OwnChords part={part} onChange={(own) => set({ own })} />
    </>
  );
}

function LastQuality({ part, onChange }: { part: ChordPart; onChange: (qualities: NonNullable<ChordPart['qualities']>) => void }) {
  const last = part.qualities!.length - 1;
  return <Choice label="…it is" value={part.qualities![last]!.quality} options={QUALITIES} onChange={(quality) => onChange(part.qualities!.with(last, { ...part.qualities![last]!, quality }))} />;
}

/** What each degree is, by name; another chord is written, or played and taken. */
function OwnChords({ part, onChange }: { part: ChordPart; onChange: (own: ChordPart['own']) => void }) {
  const sounding = useSoundingNow();
  const names = namesIn(part.tonic, part.mode);
  const put = (degree: number, tones: number[] | null) => {
    const others = (part.own ?? []).filter((own) => own.degree !== degree);
    const next = tones === null ? others : [...others, { degree, tones }].sort((a, b) => a.degree - b.degree);
    onChange(next.length === 0 ? undefined : next);
  };
  return (
    <>
      <h3>Degrees</h3>
      <p className={styles.said}>Write a chord (Dm9, G7/B, or D F A), or play one and take it.</p>
      {Array.from({ length: DEGREES }, (_, i) => i + 1).map((degree) => {
        const { root, tones } = chordOfDegree(part, degree, () => false);
        const isOwn = part.own?.some((own) => own.degree === degree) === true;
        const name = isOwn ? tonesInWords(tones, part.tonic, names) : chordName(part.tonic + root, tones.map((tone) => tone + part.tonic), names);
        return (
          <div key={degree} className={styles.degree}>
            <Field label={`${degree}${isOwn ? ' · own' : ''}`}>
              <TextField label={`Chord of degree ${degree}`} maxLength={80} value={name} parse={(text) => readOwn(text, part.tonic)} onChange={(own) => put(degree, own)} />
            </Field>
            <EditButton size="small" disabled={sounding.length === 0} aria-label={`Take what sounds as degree ${degree}`} onClick={() => put(degree, chordOf(sounding, part.tonic))}>
              Take
            </EditButton>
          </div>
        );
      })}
    </>
  );
}

/** Null where nothing is written: then the degree is what the key has again. */
function readOwn(text: string, tonic: number): number[] | null {
  if (text.trim() === '') return null;
  const read = readChord(text, tonic);
  if (!read.ok) throw new Error(`${read.message} Nothing was changed.`);
  return read.tones;
}
