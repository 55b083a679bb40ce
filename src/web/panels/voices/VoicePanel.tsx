import { Button } from 'antd';
import type { RigDocument } from '../../../core/rig/document';
import type { Fields } from '../../../core/rig/edit';
import { findStream } from '../../../core/rig/find';
import { duplicateVoiceMapping } from '../../../core/rig/duplicate';
import { remove } from '../../../core/rig/remove';
import type { RigVoiceMapping } from '../../../core/rig/voices';
import { bendInWords } from '../../../core/voices/bendStep';
import { freshVoiceMapping } from '../../../core/voices/freshVoiceMapping';
import { bodyOf } from '../../../core/voices/layout';
import { voicesThroughOutput } from '../../../core/voices/throughOutput';
import { keysInWords } from '../../../core/voices/layoutWords';
import { streamInWords } from '../../../core/voices/streamInWords';
import { played, wayOf, WAYS_OF_PLAYING } from '../../../core/voices/waysOfPlaying';
import { nextOnStage } from '../../../core/mapping/onStage';
import { spanOf } from '../../../core/voices/span';
import { LIMITS } from '../../../protocol/limits';
import { Introduce } from '../mappings/Introduce';
import { KindStep } from '../mappings/KindStep';
import { ShapingSteps, SMOOTHINGS } from '../mappings/ShapingSteps';
import { EditFieldset, EditMenu, EditSelect, EditSwitch } from '../shared/edit';
import { Field, Pair } from '../shared/Field';
import { NameField } from '../shared/NameField';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { usePanel } from '../shared/usePanel';
import { useEdit } from '../shell/useRig';
import { AXIS_SIGNAL } from './axisSignal';
import { AxisFields } from './AxisFields';
import { LayoutFields } from './LayoutFields';
import { PullFields } from './PullFields';
import { VoicePicture } from './VoicePicture';
import styles from './voices.module.css';
import shaping from '../mappings/shaping.module.css';

interface VoicePanelProps {
  mapping: RigVoiceMapping;
  rig: RigDocument;
  /** Opens another one. */
  onOpen: (id: string) => void;
  onClose: () => void;
}

/** Everything that can be set on one voice mapping; each change is heard at once. */
export function VoicePanel({ mapping, rig, onOpen, onClose }: VoicePanelProps) {
  const edit = useEdit();
  const panel = usePanel<HTMLElement>(onClose);
  const set = (change: Fields<Omit<RigVoiceMapping, 'id'>>) => edit({ kind: 'setVoiceMapping', voiceMapping: mapping.id, set: change });
  const stream = findStream(rig, mapping.stream)!;
  const receiver = rig.receivers.find(({ id }) => id === rig.outputs.find((output) => output.id === mapping.output)?.receiver);
  const { pitch, keys, strikes, strike, release } = mapping;
  const usual = () => (freshVoiceMapping(rig, stream.stream ?? stream, mapping.output, pitch.bends).change.to as RigVoiceMapping).layout;
  const through = (output: string) => {
    const { layout, pressure = null, slide = null } = voicesThroughOutput(rig, mapping, output);
    set({ output, layout, pressure, slide });
  };
  const body = bodyOf(mapping.layout);
  const duplicate = () => {
    const made = duplicateVoiceMapping(rig, mapping.id);
    if (!made) return;
    edit({ kind: 'change', changes: [made.change] });
    onOpen(made.id);
  };
  const away = () => {
    edit({ kind: 'change', changes: remove(rig, [{ kind: 'voiceMapping', id: mapping.id }]) });
    onClose();
  };
  return (
    <aside ref={panel} tabIndex={-1} className={shaping.shaping} aria-label={`Voices of ${mapping.name}`}>
      <header>
        <NameField className={shaping.name} label="Name of the voice mapping" name={mapping.name} onChange={(name) => set({ name })} />
        <Introduce mapping={mapping.id} voices />
        <EditMenu items={[{ key: 'duplicate', label: 'Duplicate', onClick: duplicate }, { key: 'delete', label: 'Delete', danger: true, onClick: away }]}>
          <Button aria-label={`More for ${mapping.name}`}>⋯</Button>
        </EditMenu>
        <Button type="text" aria-label="Close the voice panel" onClick={onClose}>
          Close
        </Button>
      </header>
      <VoicePicture id={mapping.id} className={styles.picture} />
      <p className={styles.said}>{`${stream.name}: ${streamInWords(rig, stream.id)}.`}</p>
      <EditFieldset>
        <legend>Way of playing</legend>
        <Field label="Played">
          <EditSelect
          aria-label="Way of playing"
          value={wayOf(mapping) ?? 'my own'}
          options={[...WAYS_OF_PLAYING.map((way) => ({ value: way as string, label: way })), ...(wayOf(mapping) === null ? [{ value: 'my own', label: 'my own' }] : [])]}
          onChange={(way) => way !== 'my own' && set(played(mapping, way as (typeof WAYS_OF_PLAYING)[number], usual()))}
          />
        </Field>
      </EditFieldset>
      <EditFieldset>
        <legend>Where it goes</legend>
        <Field label="Output">
          <EditSelect aria-label="Output" value={mapping.output} options={rig.outputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={through} />
        </Field>
        <LayoutFields layout={mapping.layout} onChange={(layout) => set({ layout })} />
      </EditFieldset>
      <EditFieldset>
        <legend>Pitch</legend>
        <Field label="Transpose">
          <NumberBox label="Transpose in semitones" value={pitch.transpose} min={-128} max={128} onChange={(transpose) => set({ pitch: { ...pitch, transpose } })} />
        </Field>
        <Field label="Bends">
          <EditSwitch aria-label="Bends are sent" checked={pitch.bends} onChange={(bends) => set({ pitch: { ...pitch, bends } })} />
        </Field>
        {body === 'midi' && <p className={styles.said}>{pitch.bends ? bendInWords(receiver?.bendRangeSemitones ?? 0, spanOf(rig, stream.id)) : 'Without bends each note is the nearest key.'}</p>}
        <KindStep label="Smoothing" none="None" kinds={SMOOTHINGS} value={pitch.smoothing} onChange={(smoothing) => set({ pitch: smoothing ? { ...pitch, smoothing } : without(pitch, 'smoothing') })} />
        <PullFields rig={rig} pull={pitch.pull} onChange={(pull) => set({ pitch: pull ? { ...pitch, pull } : without(pitch, 'pull') })} />
        <Field label="Only keys">
          <TextField label="Keys that are played" maxLength={20} placeholder="all, or 36 to 59" value={keys ? `${keys.low} to ${keys.high}` : ''} parse={(text) => rangeOf(text, 127)} onChange={(next) => set({ keys: next ?? null })} />
        </Field>
        {keys && <p className={styles.said}>{keysInWords(keys)}</p>}
      </EditFieldset>
      <EditFieldset>
        <legend>Strike</legend>
        <Field label="Velocity">
          <Pair label="Velocity" step={1} min={0} max={127} values={strike.range} onChange={(range) => set({ strike: { ...strike, range } })} />
        </Field>
        <Field label="Only strikes of">
          <Pair label="Strength" step={0.01} min={0} max={1} values={[strikes?.low ?? 0, strikes?.high ?? 1]} onChange={([low, high]) => set({ strikes: low <= 0 && high >= 1 ? null : { low: Math.min(low, high), high: Math.max(low, high) } })} />
        </Field>
        <Field label="Release velocity">
          <EditSwitch aria-label="Release velocities are sent" checked={release !== undefined} onChange={(on) => set({ release: on ? { shaping: {}, range: [0, 127] } : null })} />
        </Field>
        {release && (
          <>
            <Field label="Their range">
              <Pair label="Release velocity" step={1} min={0} max={127} values={release.range} onChange={(range) => set({ release: { ...release, range } })} />
            </Field>
            <details className={styles.more}>
              <summary>Shaping of the release</summary>
              <ShapingSteps shaping={release.shaping} signal={AXIS_SIGNAL} onChange={(shaping) => set({ release: { ...release, shaping } })} />
            </details>
          </>
        )}
        <details className={styles.more}>
          <summary>Shaping of the strike</summary>
          <ShapingSteps shaping={strike.shaping} signal={AXIS_SIGNAL} onChange={(shaping) => set({ strike: { ...strike, shaping } })} />
        </details>
      </EditFieldset>
      <AxisFields name="Pressure" body={body} axis={mapping.pressure} onChange={(pressure) => set({ pressure })} />
      <AxisFields name="Slide" body={body} axis={mapping.slide} onChange={(slide) => set({ slide })} />
      <EditFieldset>
        <legend>In the list</legend>
        <Field label="Stream">
          <EditSelect
            aria-label="Stream"
            value={mapping.stream}
            options={[...rig.streams, ...rig.members].map(({ id, name }) => ({ value: id, label: `${findStream(rig, id)!.from} · ${name}` }))}
            onChange={(next) => set({ stream: next })}
          />
        </Field>
        <Field label="On Stage">
          <EditSwitch aria-label="Shown large on Stage" checked={mapping.onStage !== undefined} onChange={(on) => set({ onStage: on ? nextOnStage([...rig.mappings, ...rig.voiceMappings]) : null })} />
        </Field>
        <Field label="Group">
          <TextField label="Group" maxLength={LIMITS.nameLength} value={mapping.group ?? ''} parse={(text) => text.trim()} onChange={(group) => set({ group: group === '' ? null : group })} />
        </Field>
      </EditFieldset>
    </aside>
  );
}

function without(pitch: RigVoiceMapping['pitch'], step: 'pull' | 'smoothing'): RigVoiceMapping['pitch'] {
  const others = { ...pitch };
  delete others[step];
  return others;
}

/** `36 to 59`; nothing means all. Throws a sentence for anything else. */
function rangeOf(text: string, most: number): { low: number; high: number } | undefined {
  if (text.trim() === '' || text.trim() === 'all') return undefined;
  const [, low, high] = /^\s*(\d+)\s*(?:to|-|–)\s*(\d+)\s*$/.exec(text) ?? [];
  if (low === undefined || Number(high) > most || Number(low) > Number(high)) throw new Error(`“${text}” is no range of keys from 0 to ${most}, as 36 to 59: nothing was changed.`);
  return { low: Number(low), high: Number(high) };
}
