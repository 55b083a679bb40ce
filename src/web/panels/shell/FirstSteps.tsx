import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useActivity } from '../../live/useLiveFacts';
import { ScreenLink } from '../shared/ScreenLink';
import styles from './FirstSteps.module.css';
import { useRig } from './useRig';

/** A rig with so few mappings is only begun. */
const BEGUN = 2;

/** On a rig that is only begun: what comes next, each step on the screen where it is done. Gone once something was heard. */
export function FirstSteps() {
  const { id, document: rig, stage } = useRig();
  const path = usePathname();
  const activity = useActivity();
  const plays = rig.mappings.length > 0 || rig.inputs.some((input) => input.kind === 'midi' && input.thru);
  const [moved, setMoved] = useState<string | null>(null);
  const [heard, setHeard] = useState<string | null>(null);
  useEffect(() => {
    if (activity.in > 0) setMoved(id);
    if (activity.out > 0 && plays) setHeard(id);
  }, [activity, id, plays]);
  // Whether a rig was only begun is said when it is opened: what is added on the way must not hide the way.
  const [begun, setBegun] = useState({ id: '', is: false });
  if (begun.id !== id) setBegun({ id, is: rig.mappings.length < BEGUN });
  if (stage || !begun.is || heard === id) return null;
  const steps = [
    { words: 'Bring an input', hint: 'plug something in and move it, make a surface, or start a stand-in', to: '/inputs', done: rig.inputs.some((input) => input.kind !== 'midi' || input.device) },
    { words: 'See it arrive', hint: 'move it: its numbers move on its card', to: '/inputs', done: moved === id },
    { words: 'Add an output', hint: 'a port that is plugged in, or a stand-in to practise with', to: '/outputs', done: rig.outputs.length > 0 },
    { words: 'Map', hint: 'press M, move the thing, take the number that is proposed', to: '/mappings', done: plays },
    { words: 'Hear it', hint: 'move it again and watch the messages', to: '/outputs', done: false },
  ];
  const next = steps.findIndex(({ done }) => !done);
  return (
    <nav className={styles.steps} aria-label="First steps">
      <ol>
        {steps.map(({ words, to, done }, i) => (
          <li key={words} data-done={done} aria-current={i === next ? 'step' : undefined}>
            <ScreenLink href={to}>
              {done ? '✓ ' : ''}
              {words}
            </ScreenLink>
          </li>
        ))}
      </ol>
      <p>
        {path === steps[next]!.to ? 'Here: ' : ''}
        {steps[next]!.hint}.
      </p>
    </nav>
  );
}
