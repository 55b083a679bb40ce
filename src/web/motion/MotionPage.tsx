'use client';

import { useEffect, useRef, useState } from 'react';
import { FeedLine } from '../live/feeds/feedLine';
import { askForMotion, MotionReader, motionObstacle } from '../live/feeds/motion';
import { ownReport } from '../live/feeds/ownReport';
import { LiveProvider, useLive } from '../live/LiveProvider';
import { addPainter } from '../live/painter';
import { useGivenSurface } from '../live/useGivenSurface';
import { useLineStatus, useLineWords } from '../live/useLiveFacts';
import { cssVariables, STAGE } from '../theme/tokens';
import { Unbroken } from '../theme/Unbroken';
import { useAwake } from '../useAwake';
import { ofBrowser } from '../remember';
import styles from './MotionPage.module.css';

const NAME = 'pumice.motion.name';
const REPORT = 'pumice.motion.report';
/** Sensors that say nothing for so long are not there. */
const NOTHING_MS = 2500;

export function MotionPage({ hubPort }: { hubPort: number }) {
  return (
    <Unbroken>
      <LiveProvider hubPort={hubPort}>
        <main className={styles.motion} style={cssVariables(STAGE)}>
          <Motion />
        </main>
      </LiveProvider>
    </Unbroken>
  );
}

/** Asks once, then shows what is sent: a level that tilts, and the numbers. */
function Motion() {
  const live = useLive();
  const status = useLineStatus();
  const words = useLineWords();
  const [name, setName] = useState('Lantern');
  const [problem, setProblem] = useState<string | null>(null);
  const [running, setRunning] = useState(false);
  const [asks, setAsks] = useState(false);
  const stop = useRef<() => void>(undefined);
  const left = useRef(false);
  useGivenSurface(status);
  useAwake(running);
  const values = useRef(new Map<string, number>());

  useEffect(() => {
    const kept = ofBrowser.get(NAME);
    // What the browser kept is known only here, after the server's picture was taken over.
    if (kept) setName(kept);
    left.current = false;
    return () => {
      left.current = true;
      stop.current?.();
    };
  }, []);

  const start = async () => {
    // The browser may ask for a while, and a button be tapped twice.
    setAsks(true);
    const obstacle = motionObstacle() ?? (await askForMotion());
    if (left.current) return;
    setAsks(false);
    setProblem(obstacle);
    if (obstacle) return;
    ofBrowser.set(NAME, name);
    const line = new FeedLine(live);
    const made = new MotionReader(
      line,
      (key, value) => values.current.set(key, value),
      () => {
        clearTimeout(timer);
        setProblem(null);
      },
    );
    const timer = setTimeout(() => setProblem('The sensors of this device say nothing: it may have none, or its browser keeps them back in its settings.'), NOTHING_MS);
    made.start(ownReport('motion of device', REPORT), name.trim() || 'Motion');
    stop.current = () => {
      clearTimeout(timer);
      made.stop();
      line.close();
    };
    setRunning(true);
  };

  return (
    <>
      <h1>Motion</h1>
      {problem && <p role="alert">{problem}</p>}
      {words !== '' && <p role="status">{words}</p>}
      {running ? (
        <>
          <p>{name} is on. Keep this page in view.</p>
          <Level values={values.current} />
          <button
            type="button"
            onClick={() => {
              stop.current?.();
              setRunning(false);
            }}
          >
            Stop
          </button>
        </>
      ) : (
        <>
          <p>Tilt, swing and shake this device to move the rig.</p>
          <label>
            Its name
            <input maxLength={80} value={name} onChange={({ target }) => setName(target.value)} />
          </label>
          {/* Before the line is there the page may not listen to a tap yet: it would be lost. */}
          <button type="button" className={styles.go} disabled={status === 'connecting' || asks} onClick={() => void start()}>
            Use the motion of this device
          </button>
          <p>
            Its microphone can sing and drum, too: <a href="/listen">listen with this device</a>. Its camera can follow <a href="/hands">hands before it</a>.
          </p>
        </>
      )}
    </>
  );
}

const SHOWN = [
  ['tilt pitch', 'Forward', '°'],
  ['tilt roll', 'Sideways', '°'],
  ['turn z', 'Turn', '°/s'],
] as const;

/** A round level whose bubble goes where the device leans. */
function Level({ values }: { values: ReadonlyMap<string, number> }) {
  const level = useRef<HTMLDivElement>(null);
  const numbers = useRef<HTMLDListElement>(null);
  useEffect(() => {
    const painter = addPainter(() => {
      const bubble = level.current?.firstElementChild as HTMLElement | null;
      const size = level.current?.clientWidth ?? 0;
      const share = (key: string) => (Math.max(-90, Math.min(90, values.get(key) ?? 0)) / 90) * 0.42 * size;
      bubble?.style.setProperty('transform', `translate(${share('tilt roll').toFixed(1)}px, ${(-share('tilt pitch')).toFixed(1)}px)`);
      level.current?.setAttribute('data-alive', String(values.size > 0));
      numbers.current?.querySelectorAll('dd').forEach((dd, i) => {
        const [key, , unit] = SHOWN[i]!;
        dd.textContent = `${(values.get(key) ?? 0).toFixed(0)}${unit}`;
      });
      painter.wake(1000);
    });
    return () => painter.remove();
  }, [values]);
  return (
    <>
      <div className={styles.level} ref={level} aria-hidden>
        <span />
      </div>
      <dl ref={numbers}>
        {SHOWN.map(([key, label]) => (
          <div key={key}>
            <dt>{label}</dt>
            <dd>0</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
