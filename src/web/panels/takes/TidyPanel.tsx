import { useState } from 'react';
import { NOTE_NAMES } from '../../../core/midi/describe';
import { SUNG_RECIPE, type TidyStep } from '../../../core/takes/tidy';
import { MODE_NAMES } from '../../../core/voices/scale';
import type { TakeVersion } from '../../../protocol/takes';
import { Aside } from '../shared/Aside';
import { Labelled } from '../shared/Field';
import { EditButton, EditSegmented, EditSelect, EditSwitch } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { KeptRecipes } from './KeptRecipes';
import styles from './takes.module.css';
import type { TakePicture } from './useTakePicture';

/** What a step is called, and what it begins as. */
const STEPS: { [K in TidyStep['kind']]: { name: string; fresh: Extract<TidyStep, { kind: K }> } } = {
  quantise: { name: 'Quantise', fresh: { kind: 'quantise', gridBeats: 0.25, swing: 0.5, strength: 0.8, ends: false, fromMs: 0 } },
  drop: { name: 'Drop short or soft notes', fresh: { kind: 'drop', shorterMs: 60, softer: 8 } },
  join: { name: 'Join what a wobble cut', fresh: { kind: 'join', gapMs: 60 } },
  legato: { name: 'Close small gaps', fresh: { kind: 'legato', gapMs: 80 } },
  overlaps: { name: 'End at the next note', fresh: { kind: 'overlaps' } },
  snap: { name: 'Snap to a scale', fresh: { kind: 'snap', root: 0, mode: 'major' } },
  strikes: { name: 'Even the strikes', fresh: { kind: 'strikes', amount: 0.5 } },
  thin: { name: 'Thin the curves', fresh: { kind: 'thin', tolerance: 1, bendCents: 5, as: 'steps' } },
  bends: { name: 'Bends to the centre', fresh: { kind: 'bends', amount: 1 } },
  trim: { name: 'Trim silence', fresh: { kind: 'trim', keepMs: 200 } },
};

const GRIDS = [
  [1, 'quarters'],
  [0.5, 'eighths'],
  [1 / 3, 'triplets of eighths'],
  [0.25, 'sixteenths'],
  [1 / 6, 'triplets of sixteenths'],
  [0.125, 'thirty-seconds'],
] as const;

interface TidyPanelProps {
  version: TakeVersion;
  picture: TakePicture;
  onRecipe: (recipe: TidyStep[]) => void;
  onClose: () => void;
}

/** The steps that tidy a version, one after another; what was there stays, and is drawn beneath. */
export function TidyPanel({ version, picture, onRecipe, onClose }: TidyPanelProps) {
  const { recipe } = version;
  const [before, setBefore] = useState<TidyStep[][]>([]);
  const set = (next: TidyStep[]) => {
    setBefore([...before, recipe]);
    onRecipe(next);
  };
  const undo = () => {
    onRecipe(before.at(-1)!);
    setBefore(before.slice(0, -1));
  };
  return (
    <Aside title={`Tidy ${version.name}`} onClose={onClose}>
      <p className={styles.remark}>Nothing that was played is lost: the steps are worked out anew each time, and what was there is drawn pale beneath.</p>
      <ol className={styles.steps}>
        {recipe.map((step, i) => (
          <li key={i} aria-label={STEPS[step.kind].name}>
            <header>
              <strong>
                {i + 1}. {STEPS[step.kind].name}
              </strong>
              <EditButton type="text" aria-label={`Earlier: ${STEPS[step.kind].name}`} disabled={i === 0} onClick={() => set(recipe.toSpliced(i - 1, 2, step, recipe[i - 1]!))}>
                ↑
              </EditButton>
              <EditButton type="text" aria-label={`Leave out ${STEPS[step.kind].name}`} onClick={() => set(recipe.toSpliced(i, 1))}>
                ✕
              </EditButton>
            </header>
            <StepFields step={step} onChange={(next) => set(recipe.with(i, next))} />
            <output>{picture.tidied?.said[i] ?? '…'}</output>
          </li>
        ))}
      </ol>
      <EditSelect
        aria-label="Add a step"
        placeholder="Add a step…"
        value={null}
        options={Object.entries(STEPS).map(([value, { name }]) => ({ value, label: name }))}
        onChange={(kind: TidyStep['kind'] | null) => kind && set([...recipe, STEPS[kind].fresh])}
      />
      <p className={styles.does}>
        <EditButton disabled={before.length === 0} onClick={undo}>
          Undo
        </EditButton>
        <EditButton disabled={recipe.length === 0} onClick={() => set([])}>
          As it was
        </EditButton>
        {recipe.length === 0 && (
          <EditButton onClick={() => set([...SUNG_RECIPE])}>
            Steps for a sung take
          </EditButton>
        )}
      </p>
      <KeptRecipes recipe={recipe} onTake={set} />
    </Aside>
  );
}

function StepFields({ step, onChange }: { step: TidyStep; onChange: (step: TidyStep) => void }) {
  const number = (label: string, value: number, min: number, max: number, set: (value: number) => TidyStep, more: { step?: number; whole?: boolean; decimals?: number } = {}) => (
    <Labelled label={label}>
      <NumberBox label={label} value={value} min={min} max={max} onChange={(next) => onChange(set(next))} {...more} />
    </Labelled>
  );
  const share = (label: string, value: number, set: (value: number) => TidyStep) => number(label, Math.round(value * 100), 0, 100, (percent) => set(percent / 100), { whole: true });
  switch (step.kind) {
    case 'quantise':
      return (
        <>
          <Labelled label="Grid">
            <EditSelect aria-label="Grid" value={step.gridBeats} options={GRIDS.map(([value, label]) => ({ value, label }))} onChange={(gridBeats) => onChange({ ...step, gridBeats })} />
          </Labelled>
          {share('Swing in %, 50 is straight', step.swing, (swing) => ({ ...step, swing: Math.min(0.8, Math.max(0.5, swing)) }))}
          {share('Strength in %', step.strength, (strength) => ({ ...step, strength }))}
          {number('Grid begins at, in ms', step.fromMs, 0, 1e7, (fromMs) => ({ ...step, fromMs }), { whole: true })}
          <Labelled label="Ends too">
            <EditSwitch aria-label="Ends too" checked={step.ends} onChange={(ends) => onChange({ ...step, ends })} />
          </Labelled>
        </>
      );
    case 'drop':
      return (
        <>
          {number('Shorter than, in ms', step.shorterMs, 0, 60_000, (shorterMs) => ({ ...step, shorterMs }), { whole: true })}
          {number('Softer than', step.softer, 0, 127, (softer) => ({ ...step, softer }), { whole: true })}
        </>
      );
    case 'join':
    case 'legato':
      return number('Gap at most, in ms', step.gapMs, 0, 60_000, (gapMs) => ({ ...step, gapMs }), { whole: true });
    case 'overlaps':
      return null;
    case 'snap':
      return (
        <>
          <Labelled label="Root">
            <EditSelect aria-label="Root" value={step.root} options={NOTE_NAMES.map((label, value) => ({ value, label }))} onChange={(root) => onChange({ ...step, root })} />
          </Labelled>
          <Labelled label="Scale">
            <EditSelect aria-label="Scale" value={step.mode} options={MODE_NAMES.map((value) => ({ value, label: value }))} onChange={(mode) => onChange({ ...step, mode })} />
          </Labelled>
        </>
      );
    case 'strikes':
    case 'bends':
      return share('Amount in %', step.amount, (amount) => ({ ...step, amount }));
    case 'thin':
      return (
        <>
          {number('Bends, tolerance in cents', step.bendCents, 0, 1200, (bendCents) => ({ ...step, bendCents }), { decimals: 1 })}
          {number('Tolerance in steps of 127', step.tolerance, 0, 64, (tolerance) => ({ ...step, tolerance }), { decimals: 1 })}
          <EditSegmented
            aria-label="For"
            value={step.as}
            options={[
              { value: 'steps', label: 'as it is heard' },
              { value: 'lines', label: 'for drawn lines' },
            ]}
            onChange={(as: string) => onChange({ ...step, as: as as typeof step.as })}
          />
        </>
      );
    case 'trim':
      return number('Keep around, in ms', step.keepMs, 0, 60_000, (keepMs) => ({ ...step, keepMs }), { whole: true });
    default:
      return step satisfies never;
  }
}
