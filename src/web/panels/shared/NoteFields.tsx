import type { RigDocument } from '../../../core/rig/document';
import { NumberBox } from './NumberBox';
import { TextField } from './TextField';
import { Field } from './Field';
import type { Note } from '../../../core/messages/note';
import { EditSelect } from './edit';

interface NoteFieldsProps {
  message: Note;
  rig: RigDocument;
  onChange: (message: Note) => void;
}

/** Common divisions of a quarter note; `rate` is a rate of one's own. */
const REPEATS = [
  { value: 'none', label: 'No' },
  { value: '1', label: 'Every beat' },
  { value: '0.5', label: 'Eighths' },
  { value: '0.25', label: 'Sixteenths' },
  { value: '0.125', label: 'Thirty-seconds' },
  { value: 'rate', label: 'At a rate' },
  { value: 'signal', label: 'At the rate of a signal' },
] as const;
const FIRST_RATE_HZ = 4;
const FIRST_SPEED_PER_S = 10;
const FIRST_LENGTH_MS = 120;

/** What a note has besides its channel, number and velocity. */
export function NoteFields({ message, rig, onChange }: NoteFieldsProps) {
  const { velocityFrom = 'fixed', length = 'held', chord, repeat } = message;
  const set = (change: Partial<Note>) => onChange({ ...message, ...change });
  const without = (field: keyof Note) => onChange(Object.fromEntries(Object.entries(message).filter(([key]) => key !== field)) as unknown as Note);
  const repeats = repeat === undefined ? 'none' : 'beats' in repeat ? String(repeat.beats) : typeof repeat.rateHz === 'number' ? 'rate' : 'signal';
  const setRepeat = (value: string) => {
    if (value === 'none') without('repeat');
    else if (value === 'rate') set({ repeat: { rateHz: FIRST_RATE_HZ } });
    else if (value === 'signal') {
      const signal = rig.signals.find(({ kind, unit }) => kind === 'continuous' && unit === 'Hz') ?? rig.signals.find(({ kind }) => kind === 'continuous');
      if (signal) set({ repeat: { rateHz: { signal: signal.id } } });
    } else set({ repeat: { beats: Number(value) } });
  };
  return (
    <>
      <Field label="Velocity from">
        <EditSelect
          aria-label="Velocity from"
          value={typeof velocityFrom === 'string' ? velocityFrom : 'speed'}
          options={[
            { value: 'fixed', label: 'the number above' },
            { value: 'strength', label: 'how hard' },
            { value: 'speed', label: 'how fast' },
          ]}
          onChange={(from) => set({ velocityFrom: from === 'speed' ? { fullSpeedPerS: FIRST_SPEED_PER_S } : (from as 'fixed' | 'strength') })}
        />
      </Field>
      {typeof velocityFrom === 'object' && (
        <Field label="Full ways a second for most">
          <NumberBox label="Speed of full velocity" min={0.001} max={10_000} value={velocityFrom.fullSpeedPerS} onChange={(fullSpeedPerS) => set({ velocityFrom: { fullSpeedPerS } })} />
        </Field>
      )}
      <Field label="Lasts">
        <EditSelect
          aria-label="Length of the note"
          value={typeof length === 'string' ? length : 'ms'}
          options={[
            { value: 'held', label: 'while held' },
            { value: 'ms', label: 'a fixed time' },
            { value: 'untilPressedAgain', label: 'until pressed again' },
          ]}
          onChange={(lasts) => set({ length: lasts === 'ms' ? { ms: FIRST_LENGTH_MS } : (lasts as 'held' | 'untilPressedAgain') })}
        />
      </Field>
      {typeof length === 'object' && (
        <Field label="Time (ms)">
          <NumberBox label="Length in ms" min={1} max={60_000} step={10} value={length.ms} onChange={(ms) => set({ length: { ms } })} />
        </Field>
      )}
      <Field label="Release velocity">
        <NumberBox label="Release velocity" min={0} max={127} whole value={message.releaseVelocity ?? 64} onChange={(releaseVelocity) => set({ releaseVelocity })} />
      </Field>
      <Field label="Chord (semitones)">
        <TextField label="Chord in semitones" value={(chord ?? [0]).join(' ')} parse={parseChord} onChange={(next) => (next.length === 1 && next[0] === 0 ? without('chord') : set({ chord: next }))} />
      </Field>
      <Field label="Transposed by">
        <NumberBox label="Transposed by semitones" min={-127} max={127} whole value={message.transpose ?? 0} onChange={(transpose) => set({ transpose })} />
      </Field>
      <Field label="Repeats">
        <EditSelect aria-label="Note repeat" value={repeats} options={REPEATS.some(({ value }) => value === repeats) ? [...REPEATS] : [...REPEATS, { value: repeats, label: `Every ${repeats} beats` }]} onChange={setRepeat} />
      </Field>
      {repeat && 'rateHz' in repeat && typeof repeat.rateHz === 'number' && (
        <Field label="Times a second">
          <NumberBox label="Repeat rate in Hz" min={0.01} max={100} step={0.5} value={repeat.rateHz} onChange={(rateHz) => set({ repeat: { rateHz } })} />
        </Field>
      )}
      {repeat && 'rateHz' in repeat && typeof repeat.rateHz === 'object' && (
        <Field label="Rate from">
          <EditSelect aria-label="Signal of the repeat rate" value={repeat.rateHz.signal} options={[...rig.signals, ...rig.derived].map(({ id, name }) => ({ value: id, label: name }))} onChange={(signal) => set({ repeat: { rateHz: { signal } } })} />
        </Field>
      )}
    </>
  );
}

function parseChord(text: string): number[] {
  const notes = text.split(/[\s,]+/).filter((word) => word !== '');
  return [...new Set(notes.map(Number))].map((semitones) => {
    if (!Number.isInteger(semitones) || Math.abs(semitones) > 64) throw new Error('A chord is whole semitones from -64 to 64 with spaces between, as 0 4 7: it stays as it was.');
    return semitones;
  });
}
