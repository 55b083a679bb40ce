import { App } from 'antd';
import { useEffect, useState } from 'react';
import { INSTRUMENT_IDS, INSTRUMENTS, type InstrumentId, type ReceiverSound } from '../../../core/instruments/instruments';
import { Learner } from '../../../core/instruments/learner';
import { decode } from '../../../core/midi/decode';
import { useLive } from '../../live/LiveProvider';
import { HERE } from '../../live/store';
import { useLatest } from '../../useLatest';
import { Labelled } from '../shared/Field';
import { EditButton, EditSelect, EditSwitch } from '../shared/edit';
import styles from './outputs.module.css';

const LOOK_MS = 50;

interface SoundOfProps {
  /** The id of the stand-in output. */
  output: string;
  sound: ReceiverSound | undefined;
  onChange: (sound: ReceiverSound | undefined) => void;
}

/** How a stand-in sounds, and which controllers move what of it. */
export function SoundOf({ output, sound, onChange }: SoundOfProps) {
  const [armed, setArmed] = useState<string | null>(null);
  /** What moves from now on is heard. */
  const [hears, setHears] = useState(false);
  const arm = (parameter: string | null) => {
    setArmed(parameter);
    setHears(false);
  };
  const choose = (instrument: InstrumentId | '') => onChange(instrument === '' ? undefined : { ...sound, instrument, learned: [] });
  return (
    <>
      <h3>Sound</h3>
      <Labelled label="Sounds as">
        <EditSelect aria-label="Sounds as" value={sound?.instrument ?? ''} options={[{ value: '' as const, label: 'nothing' }, ...INSTRUMENT_IDS.map((id) => ({ value: id, label: INSTRUMENTS[id].words }))]} onChange={choose} />
      </Labelled>
      {sound && (
        <Labelled label="One note a channel">
          <EditSwitch aria-label="One note a channel" checked={sound.parts ?? false} onChange={(parts) => onChange({ ...sound, parts })} />
        </Labelled>
      )}
      {sound &&
        INSTRUMENTS[sound.instrument].parameters.map(({ id, words }) => {
          const known = sound.learned.filter(({ parameter }) => parameter === id);
          const without = sound.learned.filter(({ parameter }) => parameter !== id);
          return (
            <div key={id} className={styles.learn}>
              <span>
                {words}
                {known.map(({ channel, controller }) => ` · channel ${channel} CC ${controller}`).join('')}
              </span>
              <EditButton aria-label={`Learn ${words}`} aria-pressed={armed === id} onClick={() => arm(armed === id ? null : id)}>
                {armed !== id ? 'Learn' : hears ? 'Move one' : 'A moment'}
              </EditButton>
              <EditButton type="text" aria-label={`Forget what moves ${words}`} disabled={known.length === 0} onClick={() => onChange({ ...sound, learned: without })}>
                ✕
              </EditButton>
              {armed === id && (
                <Listening
                  output={output}
                  onHears={() => setHears(true)}
                  onLearned={(address) => {
                    arm(null);
                    onChange({ ...sound, learned: [...without, { parameter: id, ...address }] });
                  }}
                />
              )}
            </div>
          );
        })}
    </>
  );
}

/** Listens for the one controller that moves there. */
function Listening({ output, onHears, onLearned }: { output: string; onHears: () => void; onLearned: (address: { channel: number; controller: number }) => void }) {
  const live = useLive();
  const { message } = App.useApp();
  // What is to be done changes with every drawing; what was heard must outlive that.
  const learned = useLatest(onLearned);
  const begins = useLatest(onHears);
  useEffect(() => {
    let learner = new Learner();
    const stop = live.store.facts.listen(HERE, (facts) => {
      for (const { bytes, where } of facts) {
        const heard = where === output && bytes ? decode(bytes) : null;
        if (heard?.kind === 'controlChange') learner.moved(heard.channel, heard.controller, performance.now());
      }
    });
    let current = true;
    // The hub is told after this turn of the browser what is watched.
    setTimeout(() => void live.said().then(() => current && begins.current()));
    const timer = setInterval(() => {
      const found = learner.result(performance.now());
      if (!found) return;
      const [only, ...more] = found;
      if (more.length === 0) return learned.current(only!);
      void message.warning(`${found.length} addresses moved: ${found.map(({ channel, controller }) => `channel ${channel} CC ${controller}`).join(' and ')}. Hold back all but one, or introduce it.`, 6);
      learner = new Learner();
    }, LOOK_MS);
    return () => {
      current = false;
      stop();
      clearInterval(timer);
    };
  }, [live, message, output, begins, learned]);
  return null;
}
