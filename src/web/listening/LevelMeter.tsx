import { useLayoutEffect, useRef } from 'react';
import type { Heard } from '../live/heard';
import styles from '../theme/devicePage.module.css';
import type { HeardNow } from './messages';

/** The meter begins here, in dB. */
const LEAST_DB = -70;
/** A lamp that was lit stays so for a while, to be seen. */
const LIT_MS = 1500;
const place = (db: number) => `${Math.max(0, Math.min(100, (100 * (db - LEAST_DB)) / -LEAST_DB))}%`;

/** How loud it is, where the gate lies, and a lamp for what is cut off. */
export function LevelMeter({ heard, gateDb }: { heard: Heard<HeardNow>; gateDb: number }) {
  const bar = useRef<HTMLDivElement>(null);
  const words = useRef<HTMLSpanElement>(null);
  const lamp = useRef<HTMLSpanElement>(null);
  useLayoutEffect(() => {
    let litMs = -Infinity;
    return heard.listen(({ levelDb, clips, timeMs }) => {
      if (clips) litMs = timeMs;
      bar.current!.style.width = place(levelDb);
      words.current!.textContent = `${levelDb.toFixed(0)} dB`;
      lamp.current!.dataset.lit = String(timeMs - litMs < LIT_MS);
    });
  }, [heard]);
  return (
    <div className={styles.level}>
      <span>Level</span>
      <div className={styles.track}>
        <div ref={bar} className={styles.bar} />
        <i className={styles.gate} style={{ left: place(gateDb) }} title={`gate at ${gateDb.toFixed(0)} dB`} />
      </div>
      <span ref={words} className={styles.number}>
        –
      </span>
      <span ref={lamp} className={styles.lamp}>
        cut off
      </span>
    </div>
  );
}
