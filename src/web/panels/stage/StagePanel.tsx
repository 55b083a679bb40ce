'use client';

import { useEffect, useState } from 'react';
import { shownOnStage } from '../../../core/mapping/onStage';
import type { RigMapping } from '../../../core/rig/document';
import type { RigVoiceMapping } from '../../../core/rig/voices';
import { layoutInShort } from '../../../core/voices/layoutWords';
import { atOnce } from '../../atOnce';
import { atRelease } from '../../atRelease';
import { PANIC_KEY } from '../../live/usePanicKey';
import { useActivity, useInputsState, useOutputsState, useLastScene, useLineStatus, useMappingStates, usePlaying } from '../../live/useLiveFacts';
import { LeavingMeter } from '../shared/LeavingMeter';
import { KEYED, useRecall } from '../scenes/useRecall';
import { DelayNumbers } from '../shell/TopBar';
import { usePanic } from '../shell/usePanic';
import { missingOutputs } from '../shared/missingOutputs';
import { SoundingCount } from '../voices/SoundingCount';
import { VoicePicture } from '../voices/VoicePicture';
import { missingInputs } from './missingInputs';
import styles from './stage.module.css';
import { useRig } from '../shell/useRig';
import { addressInWords } from '../../../core/messages';
import shared from '../shared/shared.module.css';
import topBar from '../shell/TopBar.module.css';

/** What a performer looks at while playing: the scenes, what leaves, what is missing, how late it is, and Panic. */
export function StagePanel() {
  const { stage } = useRig();
  return (
    <div className={styles.screen}>
      <h1 className={shared.visuallyHidden}>Stage</h1>
      {!stage && <p className={`${shared.hint} ${styles.hint}`}>This is how it looks on Stage; everything can still be edited. “Go on Stage” locks it.</p>}
      <Scenes />
      <Leaving />
      <Condition />
    </div>
  );
}

/** What leaves now, large. */
export function Leaving() {
  const { document: rig } = useRig();
  const states = useMappingStates();
  const shown = shownOnStage<RigMapping | RigVoiceMapping>([...rig.mappings, ...rig.voiceMappings], (id) => states.get(id)?.heardMs ?? null, useEverySecond());
  return (
    <section className={styles.meters} aria-label="What leaves" tabIndex={0}>
      <ul data-many={shown.length > 6}>
        {shown.map((mapping) => {
          const sends = states.get(mapping.id)?.sends ?? mapping.on;
          return 'stream' in mapping ? <Voices key={mapping.id} mapping={mapping} sends={sends} /> : <Meter key={mapping.id} mapping={mapping} sends={sends} />;
        })}
      </ul>
      {shown.length === 0 && <p className={shared.empty}>Nothing has moved in the last minute. What moves is shown here; “On Stage” in the shaping of a mapping chooses what always is.</p>}
    </section>
  );
}

/** The time on the clock of the page, once a second. */
function useEverySecond(): number {
  const [nowMs, setNowMs] = useState(() => performance.now());
  useEffect(() => {
    const timer = setInterval(() => setNowMs(performance.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return nowMs;
}

export function Scenes() {
  const { document: rig } = useRig();
  const last = useLastScene();
  const recall = useRecall(rig.scenes);
  return (
    <nav className={styles.scenes} aria-label="Scenes">
      {rig.scenes.map(({ id, name }, i) => (
        <button key={id} type="button" data-last={id === last} aria-current={id === last ? true : undefined} {...atRelease(() => recall(id))}>
          <span>{name}</span>
          {id === last && <small>recalled</small>}
          {i < KEYED && <kbd>{i + 1}</kbd>}
        </button>
      ))}
      {rig.scenes.length === 0 && <p className={shared.empty}>No scenes yet: take one on the Bench, under Mappings.</p>}
    </nav>
  );
}

function Meter({ mapping, sends }: { mapping: RigMapping; sends: boolean }) {
  return (
    <li data-off={!sends}>
      <strong>{mapping.name}</strong>
      <span className={styles.address}>{sends ? addressInWords(mapping.message) : 'off'}</span>
      <LeavingMeter mapping={mapping} />
    </li>
  );
}

function Voices({ mapping, sends }: { mapping: RigVoiceMapping; sends: boolean }) {
  return (
    <li data-off={!sends}>
      <strong>{mapping.name}</strong>
      <span className={styles.address}>{sends ? layoutInShort(mapping.layout) : 'off'}</span>
      <VoicePicture id={mapping.id} className={styles.voices} />
      <SoundingCount id={mapping.id} className={styles.count} />
    </li>
  );
}

/** Whether everything is there, how late it is, and the way out. */
function Condition() {
  const { document: rig } = useRig();
  const status = useLineStatus();
  const { delayP50Ms, delayP99Ms } = useActivity();
  const inputs = useInputsState();
  const playing = usePlaying();
  const missing = missingInputs(rig, inputs);
  const away = missingOutputs(rig, useOutputsState());
  const surfaces = rig.surfaces.filter(({ id }) => (playing[id] ?? 0) > 0);
  const panic = usePanic();
  return (
    <footer className={styles.condition}>
      <dl>
        <div data-state={status === 'open' ? 'good' : 'bad'}>
          <dt>Line</dt>
          <dd>{status === 'open' ? '✓ up' : '✕ down'}</dd>
        </div>
        <div>
          <dt>Delay</dt>
          <dd className={styles.number}>{delayP50Ms === null ? '–\u00a0ms' : <DelayNumbers usualMs={delayP50Ms} mostMs={delayP99Ms!} />}</dd>
        </div>
        <div>
          <dt>Surfaces</dt>
          <dd>{surfaces.length === 0 ? 'none open' : surfaces.map(({ name }) => name).join(', ')}</dd>
        </div>
        <div data-state={missing.length === 0 ? 'good' : 'bad'} aria-live="polite">
          <dt>Inputs</dt>
          <dd>{missing.length === 0 ? '✓ none missing' : `✕ ${missing.map(({ name, why }) => `${name} ${why}`).join(', ')}`}</dd>
        </div>
        <div data-state={away.length === 0 ? 'good' : 'bad'} aria-live="polite">
          <dt>Outputs</dt>
          <dd>{away.length === 0 ? '✓ none missing' : `✕ ${away.map(({ name, why }) => `${name} ${why}`).join(', ')}`}</dd>
        </div>
      </dl>
      <button type="button" className={`${topBar.panic} ${styles.panic}`} {...atOnce(panic)}>
        Panic <kbd>{PANIC_KEY}</kbd>
      </button>
    </footer>
  );
}
