import { Button } from 'antd';
import { useEffect, useState } from 'react';
import type { Profile } from '../../core/listening/profile';
import { loopDelayMs } from '../../core/listening/setUp';
import { Click } from './click';
import type { Heard } from '../live/heard';
import { useLatest } from '../useLatest';
import styles from '../theme/devicePage.module.css';
import type { FromListener } from './messages';

const CLICKS = 6;
const EVERY_MS = 600;
/** A click is placed so long before it sounds, so that a busy page does not move it. */
const AHEAD_MS = 100;

interface MeasureDelayProps {
  profile: Profile;
  running: boolean;
  struck: Heard<FromListener>;
  onChange: (set: Partial<Profile>) => void;
}

/** Plays clicks and listens for them: how long it takes from here through speaker and microphone back to here. */
export function MeasureDelay({ profile, running, struck, onChange }: MeasureDelayProps) {
  const [measures, setMeasures] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const done = useLatest(onChange);
  // What was stopped half-way says nothing of the delay.
  if (!running && measures) setMeasures(false);
  useEffect(() => {
    if (!measures) return;
    const click = new Click();
    const clicks: number[] = [];
    const onsets: number[] = [];
    const end = struck.listen((message) => message.kind === 'struck' && onsets.push(message.pageTimeMs - performance.timeOrigin));
    const timer = setInterval(() => {
      if (clicks.length < CLICKS) {
        const atMs = performance.now() + AHEAD_MS;
        clicks.push(atMs);
        return click.at(atMs, true);
      }
      setMeasures(false);
      const loopMs = loopDelayMs(clicks, onsets);
      done.current({ loopMs });
      setSaid(loopMs === null ? 'The clicks were not heard: turn the speakers up and stay silent, or go by what the browser reports.' : `From a click to here: ${Math.round(loopMs)} ms, speaker and microphone together. Practice takes that off.`);
    }, EVERY_MS);
    return () => {
      clearInterval(timer);
      end();
      click.close();
    };
  }, [measures, struck, done]);
  return (
    <>
      <p className={styles.said}>
        <Button disabled={!running || measures} onClick={() => setMeasures(true)}>
          {measures ? 'Clicks are played: be silent' : 'Measure the delay by clicks'}
        </Button>
      </p>
      {(said !== null || profile.loopMs !== null) && (
        <p role="status" className={styles.said}>
          {said ?? `From a click to here: ${Math.round(profile.loopMs!)} ms.`}
        </p>
      )}
    </>
  );
}
