import { App, Button, Input } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { EXAMPLES_OF_A_SOUND } from '../../core/listening/profile';
import { SoundBook, SOUNDS_MOST } from '../../core/listening/mouth/taughtSounds';
import { useLatest } from '../useLatest';
import { ExampleSounds } from './exampleSounds';
import styles from './listen.module.css';
import { SoundExamples } from './SoundExamples';
import type { TeachProps } from './TeachVowels';

const ENOUGH = 5;
/** Sounds that lie no further apart than this are often taken for each other. */
const CLOSE = 1.2;

/** Up to eight mouth sounds, each taught by striking it five to ten times; what is alike is said. */
export function TeachSounds({ profile, running, struck, microphone, onChange }: TeachProps) {
  const { message } = App.useApp();
  const [name, setName] = useState('');
  const [teaching, setTeaching] = useState<string | null>(null);
  const latest = useLatest({ profile, onChange });
  const exampleSounds = useMemo(() => new ExampleSounds(), []);
  useEffect(() => () => exampleSounds.close(), [exampleSounds]);
  if (!running && teaching !== null) setTeaching(null);
  useEffect(() => {
    if (!running) microphone.current?.tell({ kind: 'endTeaching' });
  }, [running, microphone]);
  useEffect(
    () =>
      struck.listen((heard) => {
        if (heard.kind === 'soundOf') void exampleSounds.keep(heard.example, heard.samples);
        if (heard.kind !== 'taughtSound') return;
        const { profile: now, onChange: change } = latest.current;
        const known = now.sounds.find((sound) => sound.name === heard.name) ?? { name: heard.name, examples: [] };
        if (known.examples.length >= EXAMPLES_OF_A_SOUND) return;
        const taught = { ...known, examples: [...known.examples, heard.example] };
        const sounds = now.sounds.some((sound) => sound.name === heard.name) ? now.sounds.map((sound) => (sound.name === heard.name ? taught : sound)) : [...now.sounds, taught];
        change({ sounds });
        // The next strike may come before the screen is drawn anew.
        latest.current = { profile: { ...now, sounds }, onChange: change };
        if (taught.examples.length === EXAMPLES_OF_A_SOUND) void message.info(`${heard.name}: ${EXAMPLES_OF_A_SOUND} examples, that is enough.`);
      }),
    [struck, message, latest, exampleSounds],
  );
  const teach = (sound: string) => {
    setTeaching(sound);
    microphone.current?.tell({ kind: 'teach', what: 'sound', name: sound });
  };
  const end = () => {
    microphone.current?.tell({ kind: 'endTeaching' });
    setTeaching(null);
    setName('');
  };
  const likeness = useMemo(() => new SoundBook(profile.sounds).likeness(), [profile.sounds]);
  const alike = likeness.filter(({ apart }) => apart < CLOSE);
  const count = profile.sounds.find((sound) => sound.name === teaching)?.examples.length ?? 0;
  const wanted = name.trim();
  return (
    <fieldset className={styles.part}>
      <legend>Mouth sounds</legend>
      <ul className={styles.taught}>
        {profile.sounds.map((sound) => (
          <li key={sound.name}>
            <strong>{sound.name}</strong>
            <span>
              {sound.examples.length} {sound.examples.length === 1 ? 'example' : 'examples'}
              {sound.examples.length < ENOUGH && ', too few'}
            </span>
            <Button size="small" aria-label={`More examples of ${sound.name}`} disabled={!running || teaching !== null} onClick={() => teach(sound.name)}>
              More
            </Button>
            <Button size="small" danger aria-label={`Forget the sound ${sound.name}`} disabled={teaching !== null} onClick={() => onChange({ sounds: profile.sounds.filter((one) => one !== sound) })}>
              Forget
            </Button>
            <SoundExamples sound={sound} sounds={exampleSounds} disabled={teaching !== null} onDrop={(place) => onChange({ sounds: profile.sounds.map((one) => (one === sound ? { ...sound, examples: sound.examples.toSpliced(place, 1) } : one)) })} />
          </li>
        ))}
      </ul>
      {alike.map(({ one, other }) => (
        <p key={`${one} ${other}`} className={styles.said}>
          <em>{one}</em> and <em>{other}</em> are close: make one of them longer or brighter, or teach it again.
        </p>
      ))}
      {likeness.length > 0 && (
        <details>
          <summary className={styles.summary}>What is like what</summary>
          <table className={styles.likeness}>
            <tbody>
              {likeness.map(({ one, other, apart }) => (
                <tr key={`${one} ${other}`} data-close={apart < CLOSE}>
                  <th scope="row">
                    {one} and {other}
                  </th>
                  <td>{apart < 1 ? 'taken for each other' : apart < CLOSE ? 'close' : `${apart.toFixed(1)} times as far as needed`}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      )}
      {teaching !== null ? (
        <p role="status" className={styles.now}>
          Strike {teaching}, soft and loud: {count} heard{' '}
          <Button type={count >= ENOUGH ? 'primary' : 'default'} onClick={end}>
            Done
          </Button>
        </p>
      ) : (
        profile.sounds.length < SOUNDS_MOST && (
          <span className={styles.pair}>
            <Input aria-label="Name of the sound" placeholder="k" maxLength={40} value={name} onChange={({ target }) => setName(target.value)} />
            <Button disabled={!running || wanted === '' || profile.sounds.some((sound) => sound.name === wanted)} onClick={() => teach(wanted)}>
              Teach it
            </Button>
          </span>
        )
      )}
    </fieldset>
  );
}
