import { App, Button, Input } from 'antd';
import { useEffect, useState, type RefObject } from 'react';
import { VOWELS_MOST, type Profile } from '../../core/listening/profile';
import type { Heard } from '../live/heard';
import { useLatest } from '../useLatest';
import styles from '../theme/devicePage.module.css';
import type { FromListener } from './messages';
import type { Microphone } from './microphone';

const LEAST = 8;

export interface TeachProps {
  profile: Profile;
  running: boolean;
  struck: Heard<FromListener>;
  microphone: RefObject<Microphone | null>;
  onChange: (set: Partial<Profile>) => void;
}

/** Up to five vowels, each taught by singing it for a moment. */
export function TeachVowels({ profile, running, struck, microphone, onChange }: TeachProps) {
  const { message } = App.useApp();
  const [name, setName] = useState('');
  const [teaching, setTeaching] = useState<string | null>(null);
  const latest = useLatest({ profile, onChange, running });
  useEffect(
    () =>
      struck.listen((heard) => {
        // What ended with the Bench was not too little.
        if (heard.kind !== 'taughtVowel' || !latest.current.running) return;
        setTeaching(null);
        const { profile: now, onChange: change } = latest.current;
        if (heard.features.length < LEAST) return void message.warning(`Too little of ${heard.name} was heard: hold it for a second or more, below 400 Hz.`);
        const others = now.vowels.filter((vowel) => vowel.name !== heard.name);
        change({ vowels: [...others, { name: heard.name, examples: heard.features }].slice(-VOWELS_MOST) });
      }),
    [struck, message, latest],
  );
  if (!running && teaching !== null) setTeaching(null);
  const teach = (vowel: string) => {
    setTeaching(vowel);
    microphone.current?.tell({ kind: 'teach', what: 'vowel', name: vowel });
  };
  // With a microphone that is gone nobody answers.
  const end = () => {
    microphone.current?.tell({ kind: 'endTeaching' });
    setTeaching(null);
  };
  const wanted = name.trim();
  return (
    <fieldset className={styles.part}>
      <legend>Vowels</legend>
      <ul className={styles.taught}>
        {profile.vowels.map((vowel) => (
          <li key={vowel.name}>
            <strong>{vowel.name}</strong>
            <Button size="small" disabled={!running || teaching !== null} onClick={() => teach(vowel.name)}>
              Again
            </Button>
            <Button size="small" danger aria-label={`Forget the vowel ${vowel.name}`} disabled={teaching !== null} onClick={() => onChange({ vowels: profile.vowels.filter((one) => one !== vowel) })}>
              Forget
            </Button>
          </li>
        ))}
      </ul>
      {teaching !== null ? (
        <p role="status" className={styles.now}>
          Sing {teaching} and hold it <Button onClick={end}>Done</Button>
        </p>
      ) : (
        profile.vowels.length < VOWELS_MOST && (
          <span className={styles.pair}>
            <Input aria-label="Name of the vowel" placeholder="a" maxLength={40} value={name} onChange={({ target }) => setName(target.value)} />
            <Button
              disabled={!running || wanted === ''}
              onClick={() => {
                setName('');
                teach(wanted);
              }}
            >
              Teach it
            </Button>
          </span>
        )
      )}
    </fieldset>
  );
}
