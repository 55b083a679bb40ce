import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { useRig, useSetStage } from './useRig';
import { ofWindow } from '../../remember';
import styles from './ModeSwitch.module.css';

/** How long the button must be held to leave the Stage, so that nobody does it by accident. */
const HOLD_MS = 1000;

/** Where this window was before it went on Stage. */
const BEFORE_STAGE = 'pumice.before-stage';

/** Bench and Stage: one press goes on Stage, a deliberate hold comes back. */
export function ModeSwitch() {
  const { stage } = useRig();
  const changeMode = useSetStage();
  const router = useRouter();
  const path = usePathname();
  const setStage = (next: boolean) => {
    changeMode(next);
    // Whoever goes on Stage sees its screen; whoever comes back goes on where they were.
    if (next) {
      if (path !== '/stage') ofWindow.set(BEFORE_STAGE, `${path}${window.location.hash}`);
      router.push('/stage');
    } else if (path === '/stage') router.push(ofWindow.get(BEFORE_STAGE) ?? '/mappings');
  };
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  const release = () => {
    clearTimeout(timer.current);
    setHolding(false);
  };
  const press = () => {
    if (holding) return;
    setHolding(true);
    timer.current = setTimeout(() => {
      release();
      setStage(false);
    }, HOLD_MS);
  };
  useEffect(() => () => clearTimeout(timer.current), []);

  if (!stage) {
    return (
      <div className={styles.mode}>
        <span aria-current="true">Bench</span>
        <button type="button" onClick={() => setStage(true)}>
          Go on Stage
        </button>
      </div>
    );
  }
  return (
    <div className={styles.mode}>
      <button
        type="button"
        className={styles.hold}
        data-holding={holding}
        style={{ ['--hold-ms' as string]: `${HOLD_MS}ms` }}
        onPointerDown={press}
        onPointerUp={release}
        onPointerLeave={release}
        onPointerCancel={release}
        onKeyDown={(event) => (event.key === ' ' || event.key === 'Enter') && press()}
        onKeyUp={release}
        onBlur={release}
      >
        Hold for Bench
      </button>
      <span aria-current="true">Stage</span>
    </div>
  );
}
