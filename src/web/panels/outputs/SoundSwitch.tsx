import { Slider, Switch } from 'antd';
import { useEffect, useRef } from 'react';
import { useRecordSettings } from '../shared/useRecordSettings';
import { useRig } from '../shell/useRig';
import { useSound } from '../../sound/SoundProvider';
import styles from './outputs.module.css';
import shared from '../shared/shared.module.css';

const QUIETEST_DB = -48;

/** Lets the stand-in receivers of this rig sound in this page, and the metronome. */
export function SoundSwitch() {
  const { document: rig } = useRig();
  const { on, setOn, volumeDb, setVolumeDb, lagMs } = useSound();
  const { settings } = useRecordSettings();
  const sounds = rig.outputs.some((output) => output.kind === 'standIn' && rig.receivers.some(({ id, sound }) => id === output.receiver && sound));
  if (!sounds && !on && !settings?.metronome) return null;
  return (
    <span className={styles.sound}>
      {lagMs !== null && <span className={styles.lag}>sound is {lagMs} ms late</span>}
      <label className={shared.switchLabel}>
        <Switch checked={on} onChange={setOn} />
        Sound of the {sounds ? 'stand-ins' : 'metronome'}
      </label>
      {on && <Level />}
      {on && <Slider ariaLabelForHandle="Volume" className={styles.volume} min={QUIETEST_DB} max={0} value={volumeDb} tooltip={{ formatter: (value) => `${value} dB` }} onChange={setVolumeDb} />}
    </span>
  );
}

/** What leaves the loudspeaker now. It moves with each picture, so React is not asked. */
function Level() {
  const { levelDb } = useSound();
  const bar = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let frame = requestAnimationFrame(function draw() {
      const share = Math.min(1, Math.max(0, 1 - levelDb() / QUIETEST_DB));
      if (bar.current) {
        bar.current.dataset.sounding = String(share > 0);
        bar.current.style.transform = `scaleX(${share})`;
      }
      frame = requestAnimationFrame(draw);
    });
    return () => cancelAnimationFrame(frame);
  }, [levelDb]);
  return (
    <span className={`${shared.bar} ${styles.level}`} role="img" aria-label="Level of the sound">
      <span ref={bar} />
    </span>
  );
}
