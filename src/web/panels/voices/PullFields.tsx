import { App } from 'antd';
import { useRef } from 'react';
import { NOTE_NAMES } from '../../../core/midi/describe';
import type { RigDocument } from '../../../core/rig/document';
import { freeId, freeName } from '../../../core/rig/naming';
import { remove } from '../../../core/rig/remove';
import { readKbm, readScl } from '../../../core/voices/scala';
import { MODE_NAMES, stepsOf, type Scale } from '../../../core/voices/scale';
import type { Pull } from '../../../core/voices/pull';
import { FRESH_PULL } from '../../../core/voices/waysOfPlaying';
import { EditButton, EditSelect, EditSwitch } from '../shared/edit';
import { Field } from '../shared/Field';
import { FilePicker } from '../shared/FilePicker';
import { NumberBox } from '../shared/NumberBox';
import { stepsFrom, stepsInWords } from '../shared/scaleSteps';
import { TextField } from '../shared/TextField';
import { useEdit } from '../shell/useRig';
import styles from './voices.module.css';

/** A scale file is some lines; more than this is none. */
const FILE_BYTES = 100_000;

/** Pull towards a scale: how much at the beginning, while held and at the end, and to which pitches. */
export function PullFields({ rig, pull, onChange }: { rig: RigDocument; pull: Pull | undefined; onChange: (pull: Pull | null) => void }) {
  const share = (label: string, spoken: string, key: 'atStart' | 'held' | 'atRelease') => (
    <Field label={label}>
      <NumberBox label={spoken} whole value={Math.round(100 * pull![key])} min={0} max={100} step={5} onChange={(percent) => onChange({ ...pull!, [key]: percent / 100 })} />
    </Field>
  );
  return (
    <>
      <Field label="Pull in tune">
        <EditSwitch aria-label="Pull in tune" checked={pull !== undefined} onChange={(on) => onChange(on ? FRESH_PULL : null)} />
      </Field>
      {pull && (
        <>
          <ScaleFields rig={rig} pull={pull} onChange={onChange} />
          {share('At the start (%)', 'Pull at the start in percent', 'atStart')}
          {share('While held (%)', 'Pull while held in percent', 'held')}
          {pull.held > 0 && (
            <>
              <Field label="Within (cents)">
                <NumberBox label="Band of the pull in cents" value={pull.bandCents} min={0} max={1200} step={5} onChange={(bandCents) => onChange({ ...pull, bandCents })} />
              </Field>
              <Field label="Speed (ms)">
                <NumberBox label="Speed of the pull in ms" value={pull.speedMs} min={0} max={60_000} step={20} onChange={(speedMs) => onChange({ ...pull, speedMs })} />
              </Field>
            </>
          )}
          {share('At the release (%)', 'Pull at the release in percent', 'atRelease')}
        </>
      )}
    </>
  );
}

function ScaleFields({ rig, pull, onChange }: { rig: RigDocument; pull: Pull; onChange: (pull: Pull) => void }) {
  const edit = useEdit();
  const { message } = App.useApp();
  const picker = useRef<HTMLInputElement>(null);
  const { scale } = pull;
  const chosen = scale.kind === 'kept' ? `kept ${scale.scale}` : scale.kind === 'mode' ? scale.mode : 'steps';
  const kept = scale.kind === 'kept' ? rig.scales.find(({ id }) => id === scale.scale) : undefined;
  const choose = (value: string) => {
    // Steps of one's own begin with those of the mode that was chosen.
    const root = scale.kind === 'kept' ? 0 : scale.root;
    if (value === 'steps') return onChange({ ...pull, scale: { kind: 'steps', root, cents: scale.kind === 'steps' ? scale.cents : scale.kind === 'mode' ? stepsOf(scale.mode) : (kept?.cents ?? stepsOf('chromatic')) } });
    const next: Scale = value.startsWith('kept ') ? { kind: 'kept', scale: value.slice(5) } : { kind: 'mode', root, mode: value as (typeof MODE_NAMES)[number] };
    onChange({ ...pull, scale: next });
  };
  /** A .scl file is kept as a scale; a .kbm file says how the one that is chosen lies on the keys. */
  const take = async (file: File) => {
    if (file.size > FILE_BYTES) return void message.warning(`${file.name} is too large for a scale: nothing was kept.`);
    const text = await file.text();
    if (/\.kbm$/i.test(file.name)) {
      const read = readKbm(text);
      if (!read.ok) return void message.warning(`${file.name}, ${read.message}: nothing was kept.`);
      if (!kept) return void message.warning('Choose one of the kept scales first: a keyboard map says how it lies on the keys.');
      return edit({ kind: 'change', changes: [{ list: 'scales', id: kept.id, to: { ...kept, keyMap: read.value } }] });
    }
    const read = readScl(text);
    if (!read.ok) return void message.warning(`${file.name}, ${read.message}: nothing was kept.`);
    const name = freeName(file.name.replace(/\.scl$/i, '').slice(0, 70) || 'Scale', rig.scales.map((one) => one.name));
    const id = freeId(name, new Set(rig.scales.map((one) => one.id)));
    edit({ kind: 'change', changes: [{ list: 'scales', id, to: { id, name, cents: read.value.cents } }] });
    onChange({ ...pull, scale: { kind: 'kept', scale: id } });
  };
  return (
    <>
      <Field label="Scale">
        <span className={styles.scale}>
          {scale.kind !== 'kept' && (
            <EditSelect aria-label="Root of the scale" value={scale.root} options={NOTE_NAMES.map((label, value) => ({ value, label }))} onChange={(root) => onChange({ ...pull, scale: { ...scale, root } })} />
          )}
          <EditSelect
            aria-label="Scale"
            value={chosen}
            options={[
              ...MODE_NAMES.map((mode) => ({ value: mode as string, label: mode as string })),
              { value: 'steps', label: 'steps of my own' },
              ...rig.scales.map(({ id, name }) => ({ value: `kept ${id}`, label: name })),
            ]}
            onChange={choose}
          />
        </span>
      </Field>
      {scale.kind === 'steps' && (
        <Field label="Steps (cents)">
          <TextField
            label="Steps in cents above the root, the last where it begins again"
            maxLength={4000}
            value={stepsInWords(scale.cents)}
            parse={stepsFrom}
            onChange={(cents) => onChange({ ...pull, scale: { ...scale, cents } })}
          />
        </Field>
      )}
      {scale.kind !== 'kept' && (
        <Field label="A4 (Hz)">
          <NumberBox label="Frequency of A4 in Hz" value={pull.referenceHz} min={220} max={880} step={1} onChange={(referenceHz) => onChange({ ...pull, referenceHz })} />
        </Field>
      )}
      <p className={styles.said}>
        <EditButton size="small" onClick={() => picker.current?.click()}>
          Scale from a file
        </EditButton>{' '}
        {kept && (
          <EditButton size="small" danger onClick={() => edit({ kind: 'change', changes: remove(rig, [{ kind: 'scale', id: kept.id }]) })}>
            Delete {kept.name}
          </EditButton>
        )}
      </p>
      <FilePicker input={picker} label="Scale file" accept=".scl,.kbm" onFile={(file) => void take(file)} />
    </>
  );
}
