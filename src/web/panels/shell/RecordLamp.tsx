import { App } from 'antd';
import Link from 'next/link';
import { useEffect } from 'react';
import type { RecordDoes } from '../../../protocol/takes';
import { isTyping } from '../../live/isTyping';
import { useLive } from '../../live/LiveProvider';
import { HERE } from '../../live/store';
import { useRecordedTake, useRecording, useRecordingProblem } from '../../live/useLiveFacts';
import { RunningTime } from '../../recording/RunningTime';
import styles from './RecordLamp.module.css';

/** Begins and ends a take, and says on every screen that one is recorded, for how long and how large it is. */
export function RecordLamp() {
  const marks = useRecording()?.marks ?? 0;
  const problem = useRecordingProblem();
  const record = useRecord();
  const on = useRecordedTake() !== null;
  return (
    <div className={styles.lamp} data-lamp data-on={on} data-problem={problem !== null}>
      <button type="button" aria-pressed={on} aria-label={on ? 'End the take' : 'Record a take'} title={on ? 'End the take (R)' : 'Record a take (R)'} onClick={() => record(on ? 'end' : 'begin')}>
        <i aria-hidden />
        {on ? <RunningTime /> : <span>Record</span>}
      </button>
      {on && (
        <button type="button" title="Mark this moment (K)" onClick={() => record('mark')}>
          Mark{marks > 0 && ` ${marks}`}
        </button>
      )}
      {problem !== null && (
        <Link href="/takes" role="alert" title={problem}>
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
  const on = useRecordedTake() !== null;
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
