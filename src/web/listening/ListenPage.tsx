'use client';

import { Button, ConfigProvider, Select } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Profile } from '../../core/listening/profile';
import { HEARD_STAND_INS } from '../../core/standIn/foghorn';
import { BenchTheme } from '../theme/BenchTheme';
import { BENCH, cssVariables } from '../theme/tokens';
import { useAwake } from '../useAwake';
import { useLatest } from '../useLatest';
import styles from '../theme/devicePage.module.css';
import { LevelMeter } from './LevelMeter';
import type { FromListener, HeardNow } from './messages';
import { Microphone } from './microphone';
import { NoteFields } from './NoteFields';
import { PitchPicture, PitchTrace } from './PitchPicture';
import { Practise } from './Practise';
import { ProfileStore, type Profiles } from './profiles';
import { SetUp } from './SetUp';
import { TeachSounds } from './TeachSounds';
import { TeachVowels } from './TeachVowels';
import { ChordFields } from './ChordFields';
import { ExampleSounds } from './exampleSounds';
import { Facts } from './Facts';
import { Heard } from '../live/heard';
import { standInId } from '../live/feeds/lentFeed';
import { useLentFeeds } from '../live/feeds/useLentFeeds';
import { useKeptElsewhere } from '../live/useKeptElsewhere';
import { deviceLineInWords } from '../live/deviceLineWords';
import type { LineStatus } from '../live/line';
import { Unbroken } from '../theme/Unbroken';
import { EditButton, EditInput, Locked } from '../panels/shared/edit';

/** A microphone becomes notes, drums and controllers, as long as this page is open. */
export function ListenPage({ hubPort }: { hubPort: number }) {
  return (
    <Unbroken>
      <BenchTheme stage={false}>
        <main className={styles.page} style={cssVariables(BENCH)}>
          <Listen hubPort={hubPort} />
        </main>
      </BenchTheme>
    </Unbroken>
  );
}

function Listen({ hubPort }: { hubPort: number }) {
  const [profiles, setProfiles] = useState<Profiles | null>(null);
  const [running, setRunning] = useState(false);
  /** Something comes from the microphone. */
  const [hears, setHears] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [notKept, setNotKept] = useState<string | null>(null);
  const [line, setLine] = useState<LineStatus>('connecting');
  const [stage, setStage] = useState(false);
  const [deviceId, setDeviceId] = useState('');
  const trace = useMemo(() => new PitchTrace(), []);
  const heard = useMemo(() => new Heard<HeardNow>(), []);
  const struck = useMemo(() => new Heard<FromListener>(), []);
  const microphone = useRef<Microphone>(null);
  const store = useRef<ProfileStore>(null);

  useEffect(() => {
    const kept = (store.current = new ProfileStore(setNotKept));
    void kept.load().then((found) => {
      setProfiles(found);
      if (kept.isWhole) void new ExampleSounds().tidy(found.all);
    });
    const made = new Microphone(hubPort, {
      told: (message) => {
        if (message.kind === 'now') {
          trace.add(message.now);
          heard.tell(message.now);
          setHears(true);
        } else if (message.kind === 'line') {
          setLine(message.status);
          setStage(message.stage);
        }
        else struck.tell(message);
      },
      problem: setProblem,
      ended: () => setRunning(false),
    });
    microphone.current = made;
    return () => made.stop();
  }, [hubPort, trace, heard, struck]);
  const { offered, find } = useLentFeeds('audioinput');
  useAwake(running);
  const isRunning = useLatest(running);
  useKeptElsewhere(store, running, () => {
    const kept = store.current!;
    void kept.load().then((found) => kept.isKept && !isRunning.current && setProfiles(found));
  });

  if (!profiles) return null;
  const profile = profiles.all.find(({ name }) => name === profiles.chosen) ?? profiles.all[0]!;
  const keep = (next: Profiles) => {
    setProfiles(next);
    store.current?.keep(next);
    const chosen = next.all.find(({ name }) => name === next.chosen);
    if (chosen) microphone.current?.tell({ kind: 'profile', profile: chosen });
  };
  // Choosing is no change: that is done on Stage too.
  const choose = (chosen: string) => {
    setProfiles({ ...profiles, chosen });
    store.current?.choose(chosen);
  };
  const change = (set: Partial<Profile>) => void (stage || keep({ ...profiles, all: profiles.all.map((one) => (one === profile ? { ...one, ...set } : one)) }));
  const start = async () => {
    setRunning(true);
    setHears(false);
    await microphone.current?.start(deviceId, profile.name, profile);
    void find();
  };
  const stop = () => {
    microphone.current?.stop();
    setRunning(false);
    setProblem(null);
  };
  const rename = (to: string) => {
    const name = to.trim().slice(0, 80);
    if (name === '' || profiles.all.some((one) => one !== profile && one.name === name)) return;
    keep({ chosen: name, all: profiles.all.map((one) => (one === profile ? { ...one, name } : one)) });
  };
  const another = () => {
    let n = 2;
    while (profiles.all.some(({ name }) => name === `${profile.name} ${n}`)) n++;
    keep({ chosen: `${profile.name} ${n}`, all: [...profiles.all, { ...profile, name: `${profile.name} ${n}` }] });
  };
  // What is being measured or taught ends where the microphone is stopped, and on Stage: a sound that is taught would play nothing there.
  const teachable = running && hears && !stage;
  return (
    <Locked when={stage}>
      <header className={styles.head}>
        <h1>Listening</h1>
        <Select aria-label="Profile" className={styles.profile} disabled={running} value={profiles.chosen} options={profiles.all.map(({ name }) => ({ value: name, label: name }))} onChange={choose} />
        <EditInput key={profile.name} aria-label="Name of the profile" className={styles.name} maxLength={80} disabled={running} defaultValue={profile.name} onBlur={({ target }) => rename(target.value)} onPressEnter={({ currentTarget }) => currentTarget.blur()} />
        <EditButton onClick={another} disabled={running}>
          Another profile
        </EditButton>
        <EditButton danger disabled={running || profiles.all.length < 2} onClick={() => keep({ chosen: profiles.all.find((one) => one !== profile)!.name, all: profiles.all.filter((one) => one !== profile) })}>
          Delete
        </EditButton>
        <Select
          aria-label="Microphone"
          className={styles.device}
          disabled={running}
          value={deviceId}
          options={[{ value: '', label: 'the usual microphone' }, ...offered.map(({ deviceId: id, label }, i) => ({ value: id, label: label || `Microphone ${i + 1}` })), ...HEARD_STAND_INS.map(({ id, name }) => ({ value: standInId(id), label: `Stand-in: ${name}` }))]}
          onChange={setDeviceId}
        />
        {running ? (
          <Button className={styles.go} onClick={stop}>
            Stop
          </Button>
        ) : (
          <Button type="primary" className={styles.go} onClick={() => void start()}>
            Listen
          </Button>
        )}
      </header>
      {notKept && (
        <p role="alert" className={styles.problem}>
          {notKept}
        </p>
      )}
      {problem && (
        <p role="alert" className={styles.problem}>
          {problem}
        </p>
      )}
      {running && line !== 'open' && (
        <p role="status" className={`${styles.problem} ${styles.line}`}>
          {deviceLineInWords(line, 'what is sung')}
        </p>
      )}
      <section className={styles.pictures} aria-label="What is heard">
        <PitchPicture trace={trace} className={styles.picture} />
        <LevelMeter heard={heard} gateDb={profile.gateDb} />
        <Facts heard={heard} struck={struck} profile={profile} delayMs={() => microphone.current?.delayMs ?? 0} />
      </section>
      <aside className={styles.settings} aria-label="How it is heard">
        {stage && <p className={styles.said}>Pumice is on Stage: nothing is changed until it is back on the Bench.</p>}
        <ConfigProvider componentDisabled={stage}>
        <fieldset disabled={stage} className={styles.all}>
        <SetUp profile={profile} struck={struck} heard={heard} running={teachable} onMeasured={change} />
        <NoteFields profile={profile} onChange={change} />
        <TeachVowels profile={profile} running={teachable} struck={struck} microphone={microphone} onChange={change} />
        <TeachSounds profile={profile} running={teachable} struck={struck} microphone={microphone} onChange={change} />
        <Practise profile={profile} running={teachable} struck={struck} onChange={change} />
        <ChordFields profile={profile} onChange={change} />
        </fieldset>
        </ConfigProvider>
      </aside>
    </Locked>
  );
}
