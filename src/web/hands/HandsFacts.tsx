import { useEffect, useRef, useState } from 'react';
import type { HandsProfile } from '../../core/hands/profile';
import type { Heard } from '../live/heard';
import shared from '../theme/devicePage.module.css';
import styles from './hands.module.css';
import { handInWords, lightInWords, rateInWords } from './handsWords';
import type { HandsNow } from './messages';

const EVERY_MS = 250;
/** Results are counted over so long. */
const COUNT_MS = 2000;

/** Results a second, the delay, the light, and what each hand does, in numbers and words. */
export function HandsFacts({ seen, running, profile }: { seen: Heard<HandsNow>; running: boolean; profile: HandsProfile }) {
  const [facts, setFacts] = useState<{ now: HandsNow; perS: number } | null>(null);
  const times = useRef<number[]>([]);
  useEffect(() => {
    let saidMs = -Infinity;
    const remove = seen.listen((now) => {
      const nowMs = performance.now();
      times.current = [...times.current.filter((at) => nowMs - at < COUNT_MS), nowMs];
      if (nowMs - saidMs < EVERY_MS) return;
      saidMs = nowMs;
      const [first = nowMs] = times.current;
      setFacts({ now, perS: nowMs > first ? (1000 * (times.current.length - 1)) / (nowMs - first) : 0 });
    });
    return () => {
      remove();
      times.current = [];
    };
  }, [seen]);
  const shown = running ? facts : null;
  return (
    <dl className={`${shared.facts} ${styles.facts}`}>
      <Fact name="Results" words={shown ? rateInWords(shown.perS, shown.now.light, profile) : '–'} />
      <Fact name="Picture to here" words={shown ? `${Math.round(shown.now.delayMs)} ms, ${Math.round(shown.now.lookMs)} of it looking` : '–'} />
      <Fact name="Light" words={shown ? lightInWords(shown.now.light) : '–'} />
      <Fact name="Left hand" words={shown ? handInWords(shown.now, 'left') : '–'} />
      <Fact name="Right hand" words={shown ? handInWords(shown.now, 'right') : '–'} />
      <Fact name="Others" words={shown ? (shown.now.strangers > 0 ? 'somebody else’s hand is in the picture: it plays nothing' : 'nobody else') : '–'} />
    </dl>
  );
}

function Fact({ name, words }: { name: string; words: string }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{words}</dd>
    </div>
  );
}
