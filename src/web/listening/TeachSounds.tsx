import { App, Button } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { EXAMPLES_OF_A_SOUND } from '../../core/listening/profile';
import { SoundBook, SOUNDS_MOST } from '../../core/listening/mouth/taughtSounds';
import { useLatest } from '../useLatest';
import { ExampleSounds } from './exampleSounds';
import { TeachList } from '../teaching/TeachList';
import { SoundExamples } from './SoundExamples';
import type { TeachProps } from './TeachVowels';

const ENOUGH = 5;

/** Up to eight mouth sounds, each taught by striking it five to ten times; what is alike is said. */
export function TeachSounds({ profile, running, struck, microphone, onChange }: TeachProps) {
  const { message } = App.useApp();
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
  };
  const likeness = useMemo(() => new SoundBook(profile.sounds).likeness(), [profile.sounds]);
  const count = profile.sounds.find((sound) => sound.name === teaching)?.examples.length ?? 0;
  return (
    <TeachList
      legend="Mouth sounds"
      noun="sound"
      placeholder="k"
      taught={profile.sounds}
      enough={ENOUGH}
      most={SOUNDS_MOST}
      likeness={likeness}
      advice="make one of them longer or brighter, or teach it again."
      teaching={teaching}
      now={
        <>
          Strike {teaching}, soft and loud: {count} heard{' '}
          <Button type={count >= ENOUGH ? 'primary' : 'default'} onClick={end}>
            Done
          </Button>
        </>
      }
      ready={running}
      onTeach={teach}
      onForget={(name) => onChange({ sounds: profile.sounds.filter((one) => one.name !== name) })}
      more={(name) => {
        const sound = profile.sounds.find((one) => one.name === name)!;
        return <SoundExamples sound={sound} sounds={exampleSounds} disabled={teaching !== null} onDrop={(place) => onChange({ sounds: profile.sounds.map((one) => (one === sound ? { ...sound, examples: sound.examples.toSpliced(place, 1) } : one)) })} />;
      }}
    />
  );
}
