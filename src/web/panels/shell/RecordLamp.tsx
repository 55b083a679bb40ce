import { App } from 'antd';
import { useCallback, useEffect } from 'react';
import type { RecordDoes } from '../../../protocol/takes';
import { isTyping } from '../../live/isTyping';
import { letterOf } from '../../live/keys';
import { useLive } from '../../live/LiveProvider';
import { HERE } from '../../live/store';
import { useIsRecordBusy, useRecordedTake, useRecording, useRecordingProblem } from '../../live/useLiveFacts';
import { RunningTime } from '../../recording/RunningTime';
import { ScreenLink } from '../shared/ScreenLink';
import styles from './RecordLamp.module.css';
import { useTellNow } from './useTellNow';

/** Begins and ends a take, and says on every screen that one is recorded, for how long and how large it is. */
export function RecordLamp() {
  const marks = useRecording()?.marks ?? 0;
  const problem = useRecordingProblem();
  const record = useRecord();
  const counting = useRecording()?.counting ?? null;
  const on = useRecordedTake() !== null;
  const busy = on || counting !== null;
  return (
    <div className={styles.lamp} data-lamp data-on={busy} data-counting={counting !== null} data-problem={problem !== null}>
      {/* Whoever clicks twice wants to be sure, neither to end what the first click began, nor to begin another. */}
      <button
        type="button"
        aria-pressed={busy}
        aria-label={on ? 'End the take' : counting ? 'Leave the count-in' : 'Record a take'}
        title={busy ? 'End the take (R)' : 'Record a take (R)'}
        onClick={({ detail }) => detail < 2 && record(busy ? 'end' : 'begin')}
      >
        <i aria-hidden />
        {busy ? <RunningTime /> : <span>Record</span>}
      </button>
      {on && (
        <button type="button" title="Mark this moment (K)" onClick={() => record('mark')}>
          Mark{marks > 0 && ` ${marks}`}
        </button>
      )}
      {problem !== null && (
        <ScreenLink href="/takes" role="alert" title={problem}>
          !
        </ScreenLink>
      )}
    </div>
  );
}

/** Does something about recording; by its keys too. */
function useRecord(): (does: RecordDoes) => void {
  const live = useLive();
  const { message } = App.useApp();
  const on = useRecordedTake() !== null;
  const busy = useIsRecordBusy();
  const tell = useTellNow();
  const record = useCallback((does: RecordDoes) => void tell({ kind: 'record', does }), [tell]);
  useEffect(() => live.store.recordRefused.listen(HERE, (sentence) => void message.warning(sentence, 6)), [live, message]);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const letter = letterOf(event);
      if (letter === 'r' && !event.shiftKey) record(busy ? 'end' : 'begin');
      if (letter === 'r' && event.shiftKey && on) record('next');
      if (letter === 'k' && on) record('mark');
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [record, on, busy]);
  return record;
}
