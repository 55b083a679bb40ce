import { App, Button, Select, Switch } from 'antd';
import { useRef } from 'react';
import { NOTE_NAMES } from '../../core/midi/describe';
import type { Profile } from '../../core/listening/profile';
import { readScl } from '../../core/voices/scala';
import { MODE_NAMES, stepsOf, type Mode } from '../../core/voices/scale';
import { Field, Pair } from '../panels/shared/Field';
import { FilePicker } from '../panels/shared/FilePicker';
import { NumberBox } from '../panels/shared/NumberBox';
import { stepsFrom, stepsInWords } from '../panels/shared/scaleSteps';
import { TextField } from '../panels/shared/TextField';
import styles from '../theme/devicePage.module.css';

const ANY = 'any pitch';
const OWN = 'steps of my own';
/** A scale file is some lines; more than this is none. */
const FILE_BYTES = 100_000;

/** How what is sung becomes notes. */
export function NoteFields({ profile, onChange }: { profile: Profile; onChange: (set: Partial<Profile>) => void }) {
  const { scale, range } = profile;
  const { message } = App.useApp();
  const picker = useRef<HTMLInputElement>(null);
  const root = scale?.root ?? 0;
  const choose = (value: string) => {
    if (value === OWN) return onChange({ scale: { kind: 'steps', root, cents: stepsOf(scale?.kind === 'mode' ? scale.mode : 'chromatic') } });
    onChange({ scale: value === ANY ? null : { kind: 'mode', root, mode: value as Mode } });
  };
  const take = async (file: File) => {
    const read = file.size > FILE_BYTES ? null : readScl(await file.text());
    if (!read?.ok) return void message.warning(`${file.name}${read ? `, ${read.message}` : ' is too large for a scale'}: nothing was changed.`);
    onChange({ scale: { kind: 'steps', root, cents: read.value.cents } });
  };
  const yes = (label: string, name: string, key: 'snaps' | 'bends' | 'glides') => (
    <Field label={label}>
      <Switch aria-label={name} checked={profile[key]} onChange={(on) => onChange({ [key]: on })} />
    </Field>
  );
  const number = (label: string, name: string, key: 'holdCents' | 'leastMs' | 'dipDb' | 'gateDb' | 'octave' | 'clarity' | 'attackMs' | 'releaseMs', min: number, max: number, step: number) => (
    <Field label={label}>
      <NumberBox label={name} value={Number(profile[key].toFixed(2))} min={min} max={max} step={step} onChange={(value) => onChange({ [key]: value })} />
    </Field>
  );
  return (
    <fieldset className={styles.part}>
      <legend>Sung notes</legend>
      <Field label="Notes of">
        <span className={styles.pair}>
          <Select aria-label="Scale of the notes" value={scale === null ? ANY : scale.kind === 'mode' ? scale.mode : OWN} options={[ANY, ...MODE_NAMES, OWN].map((value) => ({ value, label: value }))} onChange={choose} />
          {scale && <Select aria-label="Root of the scale" value={scale.root} options={NOTE_NAMES.map((label, value) => ({ value, label }))} onChange={(root) => onChange({ scale: { ...scale, root } })} />}
        </span>
      </Field>
      {scale?.kind === 'steps' && (
        <>
          <Field label="Steps (cents)">
            <TextField label="Steps in cents above the root, the last where it begins again" maxLength={4000} value={stepsInWords(scale.cents)} parse={stepsFrom} onChange={(cents) => onChange({ scale: { ...scale, cents } })} />
          </Field>
          <p className={styles.said}>
            <Button size="small" onClick={() => picker.current?.click()}>
              From a scale file
            </Button>
          </p>
          <FilePicker input={picker} label="Scale file" accept=".scl" onFile={(file) => void take(file)} />
        </>
      )}
      {scale && yes('Snap in tune', 'Notes snap to the scale', 'snaps')}
      {yes('Bend', 'Notes bend with the voice', 'bends')}
      {yes('Glide on', 'A note glides on rather than stepping to the next', 'glides')}
      {number('Octaves', 'Octaves that notes are moved by', 'octave', -4, 4, 1)}
      <Field label="From, to (keys)">
        <Pair label="Keys that notes may have" step={1} min={0} max={127} values={[range.low, range.high]} onChange={([low, high]) => onChange({ range: { low: Math.round(Math.min(low, high)), high: Math.round(Math.max(low, high)) } })} />
      </Field>
      {number('Hold band (cents)', 'Hold band in cents', 'holdCents', 0, 200, 5)}
      {number('At least (ms)', 'Least length of a pitch in ms', 'leastMs', 5, 160, 5)}
      {number('Struck again (dB)', 'Dip that strikes a note again, in dB', 'dipDb', 2, 40, 1)}
      {number('Gate (dB)', 'Gate in dB', 'gateDb', -90, 0, 1)}
      {number('Clear from', 'How clear a pitch must be, 0.8 to 0.99', 'clarity', 0.8, 0.99, 0.01)}
      {number('Louder in (ms)', 'Attack of the loudness in ms', 'attackMs', 0, 5000, 10)}
      {number('Softer in (ms)', 'Release of the loudness in ms', 'releaseMs', 0, 5000, 10)}
    </fieldset>
  );
}
