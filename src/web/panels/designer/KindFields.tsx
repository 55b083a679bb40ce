import { Button } from 'antd';
import { PRESSURES, STRENGTHS, STRIKES, type ControlOf, type RigControl, type RigSurface } from '../../../core/rig/document';
import { NOTE_NAMES, noteName } from '../../../core/midi/describe';
import { findSignal } from '../../../core/rig/find';
import { LIMITS } from '../../../protocol/limits';
import { LIMITS_OF_CONTROLS as MOST, NEW_STREAM } from '../../../core/surface/controlKinds';
import { FIRST_PAD_NOTE, padNote } from '../../../core/surface/voiceTouch';
import { MODE_NAMES } from '../../../core/voices/scale';
import { EditSelect, EditSwitch } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import type { DesignerDesk } from './useDesigner';
import shared from '../shared/shared.module.css';

interface KindFieldsProps {
  control: RigControl;
  surface: RigSurface;
  desk: DesignerDesk;
  onOpenFold: (id: string) => void;
}

/** Semitones above C of scales that are common everywhere. */
const SCALES: Readonly<Record<string, number[] | undefined>> = {
  'all notes': undefined,
  'C major, A minor': [0, 2, 4, 5, 7, 9, 11],
  'E flat major, C minor': [0, 2, 3, 5, 7, 8, 10],
  'F major, D minor': [0, 2, 4, 5, 7, 9, 10],
  'G major, E minor': [0, 2, 4, 6, 7, 9, 11],
  'C, A minor pentatonic': [0, 2, 4, 7, 9],
  'whole tones': [0, 2, 4, 6, 8, 10],
};

const STRENGTH_WORDS: Readonly<Record<(typeof STRENGTHS)[number], string>> = { fixed: 'always full', position: 'by the place, harder lower down', size: 'by the size of the touch' };

/** What a kind of control has besides what all have. */
export function KindFields({ control, surface, desk, onOpenFold }: KindFieldsProps) {
  const { change, rig } = desk;
  const number = (label: string, value: number, min: number, max: number, set: (value: number) => RigControl) => (
    <Field label={label}>
      <NumberBox label={label} min={min} max={max} whole value={value} onChange={(next) => change(set(next))} />
    </Field>
  );
  const strength = (of: ControlOf<'pads' | 'keys'>) => (
    <Field label="Strength">
      <EditSelect aria-label="Strength" value={of.strength} options={STRENGTHS.map((value) => ({ value, label: STRENGTH_WORDS[value] }))} onChange={(next) => change({ ...of, strength: next })} />
    </Field>
  );
  /** One stream of notes, or a signal for each to be mapped on its own. */
  const sends = (of: ControlOf<'pads' | 'keys'>, each: string) => (
    <Field label="Plays">
      <EditSelect aria-label="What it plays" value={of.stream === undefined ? 'own' : 'notes'} options={[{ value: 'notes', label: 'notes, one stream' }, { value: 'own', label: `${each.toLowerCase()} something of its own` }]} onChange={(what) => change(playing(of, what === 'notes'))} />
    </Field>
  );
  switch (control.kind) {
    case 'dial':
      return (
        <Field label="Endless">
          <EditSwitch aria-label="Endless" checked={control.endless === true} onChange={(endless) => change(remade({ ...control, endless }))} />
        </Field>
      );
    case 'xy':
      return number('Fingers', control.fingers ?? 1, 1, MOST.fingers, (fingers) => ({ ...control, fingers }));
    case 'faders':
      return number('Faders', control.count, 1, MOST.faders, (count) => ({ ...control, count }));
    case 'tracks':
      return number('Tracks', control.count, 1, MOST.tracks, (count) => ({ ...control, count }));
    case 'stepper':
      return number('Steps', control.steps, 2, MOST.steps, (steps) => ({ ...control, steps }));
    case 'radio':
      return (
        <Field label="Choices">
          <TextField label="Choices, one a line" lines={{ minRows: 2 }} value={control.choices.join('\n')} parse={choicesFrom} onChange={(choices) => change({ ...control, choices })} />
        </Field>
      );
    case 'pads':
      return (
        <>
          {number('Columns', control.columns, 1, MOST.padsAcross, (columns) => ({ ...control, columns }))}
          {number('Rows', control.rows, 1, MOST.padsAcross, (rows) => ({ ...control, rows }))}
          {sends(control, 'Each pad')}
          {control.stream !== undefined && number('From note', control.low ?? FIRST_PAD_NOTE, 0, 127, (low) => ({ ...control, low }))}
          {control.stream !== undefined && <p className={shared.hint}>{`${noteName(padNote(control, control.columns * (control.rows - 1)))} at the lower left`}</p>}
          {strength(control)}
        </>
      );
    case 'keys':
      return (
        <>
          {number('From note', control.low, Math.max(0, control.high - MOST.keys + 1), control.high, (low) => ({ ...control, low }))}
          {number('To note', control.high, control.low, Math.min(127, control.low + MOST.keys - 1), (high) => ({ ...control, high }))}
          <p className={shared.hint}>{`${noteName(control.low)} to ${noteName(control.high)}`}</p>
          <Field label="Scale">
            <EditSelect aria-label="Scale" value={scaleWords(control.scale)} options={Object.keys(SCALES).map((value) => ({ value, label: value }))} onChange={(words) => change(inScale(control, SCALES[words]))} />
          </Field>
          {sends(control, 'Each key')}
          {strength(control)}
        </>
      );
    case 'pitchField':
      return (
        <>
          {number('Rows', control.rows, 1, MOST.rows, (rows) => ({ ...control, rows }))}
          <Field label="From pitch">
            <NumberBox label="Pitch at the left of the lowest row" value={control.low} min={0} max={127} onChange={(low) => change({ ...control, low })} />
          </Field>
          <Field label="Across (semitones)">
            <NumberBox label="Semitones across a row" value={control.span} min={1} max={96} onChange={(span) => change({ ...control, span })} />
          </Field>
          <Field label="Row to row">
            <NumberBox label="Semitones from a row to the next" value={control.interval} min={-48} max={48} onChange={(interval) => change({ ...control, interval })} />
          </Field>
          <Field label="Guides">
            <EditSelect aria-label="Scale of the guides" value={control.guides?.mode ?? 'none'} options={[{ value: 'none', label: 'none' }, ...MODE_NAMES.map((mode) => ({ value: mode as string, label: mode as string }))]} onChange={(mode) => change(withGuides(control, mode))} />
          </Field>
          {control.guides && (
            <Field label="Root">
              <EditSelect aria-label="Root of the guides" value={control.guides.root} options={NOTE_NAMES.map((label, value) => ({ value, label }))} onChange={(root) => change({ ...control, guides: { ...control.guides!, root } })} />
            </Field>
          )}
          <Field label="Strike">
            <EditSelect aria-label="What strikes" value={control.strikeFrom} options={STRIKES.map((value) => ({ value, label: STRIKE_WORDS[value] }))} onChange={(strikeFrom) => change({ ...control, strikeFrom })} />
          </Field>
          <Field label="Pressure">
            <EditSelect aria-label="What presses" value={control.pressureFrom} options={PRESSURES.map((value) => ({ value, label: PRESSURE_WORDS[value] }))} onChange={(pressureFrom) => change({ ...control, pressureFrom })} />
          </Field>
          <Field label="Across rows">
            <EditSwitch aria-label="A finger may slide across rows" checked={control.across} onChange={(across) => change({ ...control, across })} />
          </Field>
        </>
      );
    case 'strip':
      return (
        <Field label="Does">
          <EditSelect aria-label="What the strip does" value={control.mode} options={[{ value: 'bend', label: 'bend by the way of the finger' }, { value: 'position', label: 'follow the place of the finger' }]} onChange={(mode) => change({ ...control, mode })} />
        </Field>
      );
    case 'readout':
    case 'meter':
    case 'ring':
      return (
        <Field label="Shows">
          <EditSelect aria-label="Signal that is shown" showSearch={{ optionFilterProp: 'label' }} placeholder="no signal yet" value={control.shows} options={[...rig.signals, ...rig.derived].map(({ id, name }) => ({ value: id, label: `${findSignal(rig, id)!.from} · ${name}` }))} onChange={(shows) => change({ ...control, shows })} />
        </Field>
      );
    case 'page':
      return (
        <Field label="Turns to">
          <EditSelect aria-label="Page that it turns to" placeholder="no page yet" value={control.page} options={surface.pages.map(({ id, name }) => ({ value: id, label: name }))} onChange={(page) => change({ ...control, page })} />
        </Field>
      );
    case 'scene':
      return (
        <Field label="Recalls">
          <EditSelect aria-label="Scene that it recalls" placeholder="no scene yet" value={control.scene} options={rig.scenes.map(({ id, name }) => ({ value: id, label: name }))} onChange={(scene) => change({ ...control, scene })} />
        </Field>
      );
    case 'bank':
      return (surface.banks?.length ?? 0) < 2 ? <p className={shared.hint}>This surface has no banks yet: click beside the controls and add one.</p> : null;
    case 'fold':
      return (
        <>
          <Field label="Opens">
            <EditSelect aria-label="How it opens" value={control.opens} options={[{ value: 'hold', label: 'while it is held' }, { value: 'tap', label: 'by a tap, closes by another' }]} onChange={(opens) => change({ ...control, opens })} />
          </Field>
          {(['x', 'y', 'width', 'height'] as const).map((key) => (
            <Field key={key} label={`Panel ${key}`}>
              <NumberBox label={`Panel ${key}`} min={key === 'x' || key === 'y' ? 0 : 120} max={8192} whole value={control.panel[key]} onChange={(value) => change({ ...control, panel: { ...control.panel, [key]: value } })} />
            </Field>
          ))}
          <Button onClick={() => onOpenFold(control.id)}>Open it to design ({control.controls.length} inside)</Button>
        </>
      );
    default:
      return null;
  }
}
const STRIKE_WORDS: Readonly<Record<(typeof STRIKES)[number], string>> = { fixed: 'always the same', size: 'by the size of the touch', speed: 'by how quickly the touch grows' };
const PRESSURE_WORDS: Readonly<Record<(typeof PRESSURES)[number], string>> = { size: 'by the size of the touch', force: 'by its force, where the device knows it', travel: 'by the way up or down' };

function withGuides(control: ControlOf<'pitchField'>, mode: string): RigControl {
  const plain = { ...control };
  delete plain.guides;
  return mode === 'none' ? plain : { ...plain, guides: { root: control.guides?.root ?? 0, mode: mode as (typeof MODE_NAMES)[number] } };
}

/** Keys or pads as one stream of notes, or with signals of their own; either is made anew. */
function playing(control: ControlOf<'pads' | 'keys'>, notes: boolean): RigControl {
  const plain = { ...control, signals: {} };
  delete plain.stream;
  delete plain.banks;
  return notes ? { ...plain, stream: NEW_STREAM } : plain;
}

/** An endless dial needs another signal: the one that it has is given up, and a fresh one made. */
function remade(control: ControlOf<'dial'>): RigControl {
  const fresh = { ...control, signals: Object.fromEntries(Object.entries(control.signals).filter(([role]) => role !== 'value')) };
  if (!fresh.endless) delete fresh.endless;
  delete fresh.banks;
  return fresh;
}

function inScale(control: ControlOf<'keys'>, scale: number[] | undefined): RigControl {
  const next = { ...control };
  delete next.scale;
  return scale ? { ...next, scale } : next;
}

const scaleWords = (scale: number[] | undefined) => Object.entries(SCALES).find(([, notes]) => JSON.stringify(notes) === JSON.stringify(scale))?.[0] ?? 'its own';

function choicesFrom(text: string): string[] {
  const choices = text.split('\n').map((line) => line.trim()).filter(Boolean);
  const long = choices.find((choice) => choice.length > LIMITS.nameLength);
  if (choices.length < 2 || choices.length > MOST.choices) throw new Error(`There are 2 to ${MOST.choices} choices, each on a line of its own, and these would be ${choices.length}: they stay as they were.`);
  if (long !== undefined) throw new Error(`A choice has at most ${LIMITS.nameLength} characters, and “${long.slice(0, 20)}…” has ${long.length}: the choices stay as they were.`);
  return choices;
}
