import { atOnce } from '../../atOnce';
import { useLive } from '../../live/LiveProvider';
import { PANIC_KEY, usePanicKey } from '../../live/usePanicKey';
import { useActivity, usePlayedBpm } from '../../live/useLiveFacts';
import { NumberBox } from '../shared/NumberBox';
import { ModeSwitch } from './ModeSwitch';
import { RecordLamp } from './RecordLamp';
import { RigName } from './RigName';
import { UndoButtons } from './UndoButtons';
import { usePanic, usePanicAnswer } from './usePanic';
import { useEdit, useRefusals, useRig } from './useRig';
import styles from './TopBar.module.css';

/** Rig, Bench or Stage, tempo, activity, delay, Panic. */
export function TopBar() {
  const { document, stage } = useRig();
  const edit = useEdit();
  const played = usePlayedBpm();
  useRefusals();
  return (
    <header className={styles.topBar}>
      <RigName />
      <UndoButtons />
      <ModeSwitch />
      <label className={styles.tempo}>
        Tempo
        <NumberBox label="Tempo in beats per minute" min={20} max={400} decimals={1} value={stage ? (played ?? document.tempoBpm) : document.tempoBpm} onChange={(tempoBpm) => edit({ kind: 'setRig', set: { tempoBpm } })} />
      </label>
      <RecordLamp />
      <ActivityReading />
      <PanicButton />
    </header>
  );
}

function ActivityReading() {
  const { in: entered, out, delayP50Ms, delayP99Ms } = useActivity();
  return (
    <dl className={styles.activity}>
      <Flow name="In" count={entered} />
      <Flow name="Out" count={out} />
      <div title="From finger to byte: half of all messages, and 99 of 100, were at most this late">
        <dt>Delay</dt>
        <dd className={styles.delay}>{delayP50Ms === null ? '–\u00a0ms' : <DelayNumbers usualMs={delayP50Ms} mostMs={delayP99Ms!} />}</dd>
      </div>
    </dl>
  );
}

/** The two numbers of the delay, each with what it is. */
export function DelayNumbers({ usualMs, mostMs }: { usualMs: number; mostMs: number }) {
  return (
    <>
      <span className={styles.one}>
        <small>usual</small> {usualMs.toFixed(1)}
      </span>{' '}
      <span className={styles.one}>
        <small>most</small> {mostMs.toFixed(1)} ms
      </span>
    </>
  );
}

/** Reports come twice a second, so a count stands for half a second. */
function Flow({ name, count }: { name: string; count: number }) {
  return (
    <div data-alive={count > 0} title={`Messages ${name.toLowerCase()} a second`}>
      <dt>{name}</dt>
      <dd>{count * 2}/s</dd>
    </div>
  );
}

function PanicButton() {
  const panic = usePanic();
  usePanicAnswer();
  usePanicKey(useLive(), panic);
  return (
    <button className={styles.panic} data-always type="button" {...atOnce(panic)}>
      Panic <kbd>{PANIC_KEY}</kbd>
    </button>
  );
}
