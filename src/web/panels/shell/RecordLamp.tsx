import { App } from 'antd';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import type { RecordDoes } from '../../../protocol/takes';
import { isTyping } from '../../live/isTyping';
import { useLive } from '../../live/LiveProvider';
import { HERE } from '../../live/store';
import { useRecording } from '../../live/useLiveFacts';
import { clockOf } from '../takes/words';
import styles from './RecordLamp.module.css';

/** Begins and ends a take, and says on every screen that one is recorded, for how long and how large it is. */
export function RecordLamp() {
  const recording = useRecording();
  const record = useRecord();
  const on = recording?.take != null;
  return (
    <div className={styles.lamp} data-on={on} data-problem={recording?.problem != null}>
      <button type="button" aria-pressed={on} aria-label={on ? 'End the take' : 'Record a take'} title={on ? 'End the take (R)' : 'Record a take (R)'} onClick={() => record(on ? 'end' : 'begin')}>
        <i aria-hidden />
        {on ? <RunningTime /> : 'Record'}
      </button>
      {on && (
        <button type="button" title="Mark this moment (K)" onClick={() => record('mark')}>
          Mark{recording.marks > 0 && ` ${recording.marks}`}
        </button>
      )}
      {recording?.problem != null && (
        <Link href="/takes" role="alert" title={recording.problem}>
          !
        </Link>
      )}
    </div>
  );
}

/** Does something about recording; by its keys too. */
function useRecord(): (does: RecordDoes) => void {
  const live = useLive();
  const { message } = App.useApp();
  const on = useRecording()?.take != null;
  useEffect(() => live.store.recordRefused.listen(HERE, (sentence) => void message.warning(sentence, 6)), [live, message]);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      if (event.key === 'r') live.tell({ kind: 'record', does: on ? 'end' : 'begin' });
      if (event.key === 'k' && on) live.tell({ kind: 'record', does: 'mark' });
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [live, on]);
  return (does) => {
    if (!live.tell({ kind: 'record', does })) void message.error('That could not be said: there is no connection to Pumice.');
  };
}

/** How long the take is by now. */
export function RunningTime() {
  const live = useLive();
  const recording = useRecording();
  const [, again] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => again((count) => count + 1), 250);
    return () => clearInterval(timer);
  }, []);
  return <time role="timer">{clockOf(Math.max(0, live.hubMs - (recording?.sinceHubMs ?? 0)))}</time>;
}
