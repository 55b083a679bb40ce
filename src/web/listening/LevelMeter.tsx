import { useLayoutEffect, useRef } from 'react';
import { addFigure } from '../live/figures';
import type { Heard } from '../live/heard';
import styles from '../theme/devicePage.module.css';
import type { HeardNow } from './messages';

/** The meter begins here, in dB. */
const LEAST_DB = -70;
/** A lamp that was lit stays so for a while, to be seen. */
const LIT_MS = 1500;
/** From 0 to 1. */
const place = (db: number) => Math.max(0, Math.min(1, (db - LEAST_DB) / -LEAST_DB));

/** How loud it is, where the gate lies, and a lamp for what is cut off. */
export function LevelMeter({ heard, gateDb }: { heard: Heard<HeardNow>; gateDb: number }) {
  const bar = useRef<HTMLDivElement>(null);
  const words = useRef<HTMLSpanElement>(null);
  const lamp = useRef<HTMLSpanElement>(null);
  useLayoutEffect(() => {
    let litMs = -Infinity;
    const figures = addFigure(() => {
      const now = heard.last;
      if (!now) return;
      words.current!.textContent = `${now.levelDb.toFixed(0)} dB`;
      lamp.current!.dataset.lit = String(now.timeMs - litMs < LIT_MS);
    });
    const remove = heard.listen(({ levelDb, clips, timeMs }) => {
      if (clips) litMs = timeMs;
      // The bar moves with the voice, and nothing has to be laid out for it.
      bar.current!.style.transform = `scaleX(${place(levelDb)})`;
      figures.changed();
    });
    return () => {
      figures.remove();
      remove();
    };
  }, [heard]);
  return (
    <div className={styles.level}>
      <span>Level</span>
      <div className={styles.track}>
        <div ref={bar} className={styles.bar} />
        <i className={styles.gate} style={{ left: `${100 * place(gateDb)}%` }} title={`gate at ${gateDb.toFixed(0)} dB`} />
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
