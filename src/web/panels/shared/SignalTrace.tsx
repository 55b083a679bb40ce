import { useMemo } from 'react';
import type { RigDerived, RigSignal } from '../../../core/rig/document';
import { Pictured } from './Pictured';
import { useInView } from './useInView';
import styles from './SignalTrace.module.css';

/**
 * The last four seconds of a signal; sulphur while it moves. A device may have hundreds of signals: it is drawn in view only.
 * `--trace-height` and `--trace-ground` say how it is laid out.
 */
export function SignalTrace({ signal }: { signal: RigSignal | RigDerived }) {
  const { ref, inView } = useInView<HTMLDivElement>();
  const picture = useMemo(() => ({ kind: 'trace' as const, signal }), [signal]);
  return (
    <div ref={ref} className={styles.trace}>
      {inView && <Pictured className={styles.picture} picture={picture} />}
    </div>
  );
}
