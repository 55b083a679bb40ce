import { useMemo } from 'react';
import type { RigDerived, RigMapping, RigSignal } from '../../../core/rig/document';
import { Pictured } from '../shared/Pictured';
import styles from './BeforeAfter.module.css';
import calibrationPicture from '../inputs/CalibrationPicture.module.css';

interface BeforeAfterProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
}

/** The signal as it comes in and the level as it leaves, on one time axis. */
export function BeforeAfter({ mapping, signal }: BeforeAfterProps) {
  const picture = useMemo(() => ({ kind: 'beforeAfter' as const, mapping, signal }), [mapping, signal]);
  return (
    <figure className={styles.beforeAfter}>
      <Pictured className={styles.beforeAfterPicture} picture={picture} label="The signal before and the level after shaping, over four seconds" />
      <figcaption>
        <span className={`${styles.key} ${calibrationPicture.before}`}>before</span>
        <span className={`${styles.key} ${styles.after}`}>after</span>
        <span>4 s</span>
      </figcaption>
    </figure>
  );
}
