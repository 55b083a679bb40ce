import { App, Button } from 'antd';
import type { TaughtSound } from '../../core/listening/mouth/taughtSounds';
import type { ExampleSounds } from './exampleSounds';
import styles from '../theme/devicePage.module.css';

interface Props {
  sound: TaughtSound;
  sounds: ExampleSounds;
  disabled: boolean;
  onDrop: (place: number) => void;
}

/** The examples of one mouth sound: each is heard again, or dropped. */
export function SoundExamples({ sound, sounds, disabled, onDrop }: Props) {
  const { message } = App.useApp();
  const play = async (example: number[]) => {
    if (!(await sounds.play(example))) void message.info('How this example sounded is kept by the browser that taught it, and not by this one; it is known all the same.');
  };
  return (
    <ol className={styles.examples} aria-label={`Examples of ${sound.name}`}>
      {sound.examples.map((example, i) => (
        <li key={i}>
          <Button size="small" aria-label={`Hear example ${i + 1} of ${sound.name}`} onClick={() => void play(example)}>
            ▸ {i + 1}
          </Button>
          <Button size="small" aria-label={`Drop example ${i + 1} of ${sound.name}`} disabled={disabled} onClick={() => onDrop(i)}>
            ×
          </Button>
        </li>
      ))}
    </ol>
  );
}
