import { usePathname } from 'next/navigation';
import { ScreenLink } from '../shared/ScreenLink';
import { useRig } from './useRig';
import styles from './Spine.module.css';

/** The screens in the order of the job, each with a small drawing of what it holds. */
const SCREENS = [
  { path: '/inputs', name: 'Inputs', drawing: 'M4 5h3v14H4M11 12h9M14 8l-4 4 4 4' },
  { path: '/mappings', name: 'Mappings', drawing: 'M3 17c4 0 4-10 9-10s5 6 9 6' },
  { path: '/ensemble', name: 'Ensemble', drawing: 'M5 19V9M5 9a2 2 0 1 0 .1 0M12 19V6M12 6a2 2 0 1 0 .1 0M19 19v-7M19 12a2 2 0 1 0 .1 0M3 21h18' },
  { path: '/surfaces', name: 'Surfaces', drawing: 'M4 5h16v14H4zM9 5v14M9 12h11' },
  { path: '/outputs', name: 'Outputs', drawing: 'M4 12h9M10 8l4 4-4 4M17 5h3v14h-3' },
  { path: '/ledger', name: 'Ledger', drawing: 'M4 5h16M4 10h16M4 15h16M4 20h16M9 3v19' },
  { path: '/takes', name: 'Takes', drawing: 'M3 6h18M3 18h18M5 14c3 0 3-5 6-5s2 3 4 3 2-2 4-2M16 6v12' },
  { path: '/rigs', name: 'Rigs', drawing: 'M4 7h7l2 2h7v10H4zM4 7V5h6' },
];

/** First on the Stage, and not there on the Bench. */
const STAGE = { path: '/stage', name: 'Stage', drawing: 'M3 5h18M5 5v6c0 3-1 5-2 7M19 5v6c0 3 1 5 2 7M8 19h8M12 11v8' };

export function Spine() {
  const path = usePathname();
  const { stage } = useRig();
  return (
    <nav className={styles.spine} aria-label="Screens">
      {(stage ? [STAGE, ...SCREENS] : SCREENS).map(({ path: target, name, drawing }) => (
        <ScreenLink key={target} href={target} aria-current={path === target ? 'page' : undefined}>
          <svg viewBox="0 0 24 24" aria-hidden>
            <path d={drawing} />
          </svg>
          {name}
        </ScreenLink>
      ))}
    </nav>
  );
}
