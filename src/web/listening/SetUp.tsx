import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { Profile } from '../../core/listening/profile';
import { measured, SET_UP_STEPS, type SetUpHop, type SetUpStep } from '../../core/listening/setUp';
import type { Heard } from '../live/heard';
import { useLatest } from '../useLatest';
import styles from '../theme/devicePage.module.css';
import { MeasureDelay } from './MeasureDelay';
import type { FromListener, HeardNow } from './messages';

const STEP_MS = 4000;
/** What is heard comes about so often as this from the worker: each counts for so many hops. */
const HOPS_EACH = 6;
const SAYS: Readonly<Record<SetUpStep, string>> = { silence: 'Be silent', soft: 'Sing or speak softly', loud: 'Sing or speak loudly' };

interface SetUpProps {
  profile: Profile;
  struck: Heard<FromListener>;
  heard: Heard<HeardNow>;
  running: boolean;
  onMeasured: (set: Partial<Profile>) => void;
}

/** Guides through silence, soft and loud, and sets the levels by it. */
export function SetUp({ profile, struck, heard, running, onMeasured }: SetUpProps) {
  const [step, setStep] = useState<SetUpStep | null>(null);
  const [remarks, setRemarks] = useState<string[] | null>(null);
  const kept = useRef<Record<SetUpStep, SetUpHop[]>>({ silence: [], soft: [], loud: [] });
  const done = useLatest(onMeasured);
  useEffect(() => {
    if (!step) return;
    const end = heard.listen(({ levelDb, hz, clips }) => {
      for (let i = 0; i < HOPS_EACH; i++) kept.current[step].push({ levelDb, hz, clips });
    });
    const timer = setTimeout(() => {
      const next = SET_UP_STEPS[SET_UP_STEPS.indexOf(step) + 1];
      if (next) return setStep(next);
      setStep(null);
      const found = measured(kept.current);
      if (!found) return setRemarks(['Nothing came from the microphone meanwhile: measure again.']);
      const { remarks: said, ...levels } = found;
      done.current(levels);
      setRemarks(said);
    }, STEP_MS);
    return () => {
      end();
      clearTimeout(timer);
    };
  }, [step, heard, done]);
  if (!running && step) setStep(null);
  const begin = () => {
    kept.current = { silence: [], soft: [], loud: [] };
    setRemarks(null);
    setStep('silence');
  };
  return (
    <fieldset className={styles.part}>
      <legend>Set up</legend>
      {step ? (
        <p role="status" className={styles.now}>
          {SAYS[step]} <small>{SET_UP_STEPS.indexOf(step) + 1} of 3, four seconds each</small>
        </p>
      ) : (
        <p className={styles.said}>
          <Button disabled={!running} onClick={begin}>
            Measure the room and the voice
          </Button>
        </p>
      )}
      {remarks && (
        <ul role="status" className={styles.remarks}>
          {remarks.length === 0 ? <li>All is well: gate and levels are set.</li> : remarks.map((remark) => <li key={remark}>{remark}</li>)}
        </ul>
      )}
      <MeasureDelay profile={profile} running={running && step === null} struck={struck} onChange={onMeasured} />
    </fieldset>
  );
}
