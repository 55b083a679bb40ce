import { Button, Input } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { countOf, Practice, readPattern, type Verdict } from '../../core/listening/mouth/practice';
import { EXAMPLES_OF_A_SOUND, type Profile } from '../../core/listening/profile';
import { NumberBox } from '../panels/shared/NumberBox';
import { Click } from './click';
import type { Heard } from '../live/heard';
import styles from '../theme/devicePage.module.css';
import type { FromListener } from './messages';

/** Steps a beat, and the beats that are counted in. */
const STEPS = 2;
const COUNT_IN = 4;
const LOOK_MS = 25;
/** Clicks are placed so long before they sound, so that a busy page does not move them. */
const AHEAD_MS = 150;

interface PractiseProps {
  profile: Profile;
  running: boolean;
  struck: Heard<FromListener>;
  onChange: (set: Partial<Profile>) => void;
}

/** A pattern to follow against a click: what was hit, missed or taken for another, how early or late; mistakes can be taught. */
export function Practise({ profile, running, struck, onChange }: PractiseProps) {
  const names = profile.sounds.map(({ name }) => name);
  const [text, setText] = useState<string | null>(null);
  const [bpm, setBpm] = useState(90);
  const [on, setOn] = useState(false);
  const [step, setStep] = useState(-1);
  const [verdicts, setVerdicts] = useState<readonly Verdict[]>([]);
  const [extra, setExtra] = useState(0);
  const mistakes = useRef<{ sound: string; example: number[] }[]>([]);
  const usual = names.length > 1 ? `${names[0]} . ${names[1]} . ${names[0]} ${names[0]} ${names[1]} .` : `${names[0] ?? ''} . . .`;
  const pattern = useMemo(() => readPattern(text ?? usual), [text, usual]);
  const stranger = pattern.find((sound) => sound !== null && !names.includes(sound));
  // Listening again is no wish to practise.
  if (!running && on) setOn(false);
  useEffect(() => {
    if (!on || pattern.length === 0) return;
    const stepMs = 60_000 / bpm / STEPS;
    const click = new Click();
    const beganMs = performance.now() + AHEAD_MS;
    const practice = new Practice(pattern, stepMs, beganMs + COUNT_IN * STEPS * stepMs);
    mistakes.current = [];
    let beat = 0;
    const timer = setInterval(() => {
      const nowMs = performance.now();
      practice.until(nowMs);
      setStep(practice.stepAt(nowMs));
      setVerdicts([...practice.verdicts]);
      setExtra(practice.extra);
      for (; beganMs + beat * STEPS * stepMs < nowMs + AHEAD_MS; beat++) click.at(beganMs + beat * STEPS * stepMs, beat % COUNT_IN === 0);
    }, LOOK_MS);
    const end = struck.listen((message) => {
      if (message.kind !== 'struck') return;
      const verdict = practice.strike(message.sound, message.pageTimeMs - performance.timeOrigin - (profile.loopMs ?? 0));
      if (verdict?.kind === 'wrong') mistakes.current.push({ sound: verdict.sound, example: message.example });
    });
    return () => {
      clearInterval(timer);
      end();
      click.close();
      setStep(-1);
    };
  }, [on, pattern, bpm, struck, profile.loopMs]);
  if (names.length === 0) return null;
  const { hits, wrong, missed, lateMs, spreadMs } = countOf(verdicts);
  const teach = () => {
    onChange({ sounds: profile.sounds.map((sound) => ({ ...sound, examples: [...sound.examples, ...mistakes.current.filter((mistake) => mistake.sound === sound.name).map(({ example }) => example)].slice(-EXAMPLES_OF_A_SOUND) })) });
    mistakes.current = [];
    setVerdicts([]);
  };
  const lastOf = (at: number) => verdicts.findLast((verdict) => verdict.step === at)?.kind;
  return (
    <fieldset className={styles.part}>
      <legend>Practice</legend>
      <span className={styles.pair}>
        <Input aria-label="Pattern of sounds, a dot for a rest" disabled={on} value={text ?? usual} maxLength={300} onChange={({ target }) => setText(target.value)} />
        <NumberBox label="Tempo of the practice in beats a minute" locks={false} disabled={on} min={40} max={240} whole value={bpm} onChange={setBpm} />
      </span>
      {stranger !== undefined && <p className={styles.said}>“{stranger}” is none of the sounds that were taught.</p>}
      <ol className={styles.steps} aria-label="Steps of the pattern">
        {pattern.map((sound, at) => (
          <li key={at} data-now={at === step} data-was={sound === null ? undefined : lastOf(at)}>
            {sound ?? '·'}
          </li>
        ))}
      </ol>
      {verdicts.length > 0 && (
        <p role="status" className={styles.said}>
          {hits} hit, {missed} missed, {wrong} taken for another, {extra} besides
          {hits > 0 && `; usually ${Math.abs(Math.round(lateMs))} ms ${lateMs < 0 ? 'early' : 'late'}, half within ${Math.round(spreadMs)} ms of that`}
        </p>
      )}
      <span className={styles.row}>
        <Button disabled={!running || stranger !== undefined || pattern.length === 0} onClick={() => setOn(!on)}>
          {on ? 'End the practice' : 'Practise'}
        </Button>
        {!on && wrong > 0 && mistakes.current.length > 0 && <Button onClick={teach}>Teach what was taken for another</Button>}
      </span>
    </fieldset>
  );
}
