'use client';

import { Button, ConfigProvider, Select } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { HandsProfile } from '../../core/hands/profile';
import { HANDS_STAND_INS } from '../../core/standIn/gulls';
import { Heard } from '../live/heard';
import { KeptSettings } from '../live/keptSettings';
import { deviceLineInWords } from '../live/deviceLineWords';
import type { LineStatus } from '../live/line';
import { BenchTheme } from '../theme/BenchTheme';
import shared from '../theme/devicePage.module.css';
import { BENCH, cssVariables } from '../theme/tokens';
import { Unbroken } from '../theme/Unbroken';
import { isStandIn, standInId } from '../live/feeds/lentFeed';
import { useLentFeeds } from '../live/feeds/useLentFeeds';
import { useKeptElsewhere } from '../live/useKeptElsewhere';
import { Locked } from '../panels/shared/edit';
import { useAwake } from '../useAwake';
import { useLatest } from '../useLatest';
import { Camera, MOVED } from './camera';
import { HandsFacts } from './HandsFacts';
import { HandsPicture } from './HandsPicture';
import { KEPT_HANDS } from './keptHands';
import type { FromTracker, HandsNow } from './messages';
import { MoveHand } from './MoveHand';
import { HandsFields } from './HandsFields';
import { TeachPoses } from './TeachPoses';

const NAME = 'Hands';

/** Hands before a camera become notes and controllers, as long as this page is open and in view. */
export function HandsPage(props: { hubPort: number; modelFolder: string }) {
  return (
    <Unbroken>
      <BenchTheme stage={false}>
        <main className={shared.page} style={cssVariables(BENCH)}>
          <Looking {...props} />
        </main>
      </BenchTheme>
    </Unbroken>
  );
}

function Looking({ hubPort, modelFolder }: { hubPort: number; modelFolder: string }) {
  const [profile, setProfile] = useState<HandsProfile | null>(null);
  const [running, setRunning] = useState(false);
  /** How much of the model is here; 1 once it looks. */
  const [loaded, setLoaded] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const [notKept, setNotKept] = useState<string | null>(null);
  const [line, setLine] = useState<LineStatus>('connecting');
  const [stage, setStage] = useState(false);
  const [deviceId, setDeviceId] = useState('');
  const seen = useMemo(() => new Heard<HandsNow>(), []);
  const told = useMemo(() => new Heard<FromTracker>(), []);
  const camera = useRef<Camera>(null);
  const kept = useRef<KeptSettings<HandsProfile>>(null);
  const video = useRef<HTMLVideoElement>(null);

  const profileIsThere = profile !== null;
  useEffect(() => {
    const settings = (kept.current = new KeptSettings(KEPT_HANDS, setNotKept));
    void settings.load().then(setProfile);
  }, []);
  useEffect(() => {
    // Its picture is on the page once the settings are.
    if (!profileIsThere || !video.current) return;
    const made = new Camera(hubPort, modelFolder, video.current, {
      told: (message) => {
        if (message.kind === 'now') seen.tell(message.now);
        else if (message.kind === 'loading') setLoaded(Math.min(0.99, message.share));
        else if (message.kind === 'ready') setLoaded(1);
        else if (message.kind === 'line') {
          setLine(message.status);
          setStage(message.stage);
        } else told.tell(message);
      },
      problem: setProblem,
      ended: () => setRunning(false),
    });
    camera.current = made;
    return () => made.stop();
  }, [hubPort, modelFolder, seen, told, profileIsThere]);
  const { offered, find } = useLentFeeds('videoinput');
  useAwake(running);
  const isRunning = useLatest(running);
  useKeptElsewhere(kept, running, () => {
    const settings = kept.current!;
    void settings.load().then((found) => settings.isKept && !isRunning.current && setProfile(found));
  });

  if (!profile) return null;
  const start = async (as: HandsProfile = profile) => {
    setRunning(true);
    setLoaded(0);
    await camera.current?.start(deviceId, NAME, as);
    void find();
  };
  const stop = () => {
    camera.current?.stop();
    setRunning(false);
    setProblem(null);
  };
  const change = (set: Partial<HandsProfile>) => {
    if (stage) return;
    const next = { ...profile, ...set };
    setProfile(next);
    kept.current?.keep(next);
    // Another model begins anew.
    if (running && (set.model !== undefined || set.hands !== undefined)) void start(next);
    else camera.current?.tell({ kind: 'profile', profile: next });
  };
  const looks = running && loaded === 1;
  return (
    <Locked when={stage}>
      <header className={shared.head}>
        <h1>Hands</h1>
        <Select
          aria-label="Camera"
          className={shared.device}
          disabled={running}
          value={deviceId}
          options={[
            { value: '', label: 'the usual camera' },
            ...offered.map(({ deviceId: id, label }, i) => ({ value: id, label: label || `Camera ${i + 1}` })),
            ...HANDS_STAND_INS.map(({ id, name }) => ({ value: standInId(id), label: `Stand-in: ${name}` })),
            { value: MOVED, label: 'A hand that is moved on screen' },
          ]}
          onChange={setDeviceId}
        />
        {running ? (
          <Button className={shared.go} onClick={stop}>
            Stop
          </Button>
        ) : (
          <Button type="primary" className={shared.go} onClick={() => void start()}>
            Start
          </Button>
        )}
      </header>
      {[notKept, problem].map(
        (sentence) =>
          sentence && (
            <p key={sentence} role="alert" className={shared.problem}>
              {sentence}
            </p>
          ),
      )}
      {running && line !== 'open' && (
        <p role="status" className={`${shared.problem} ${shared.line}`}>
          {deviceLineInWords(line, 'what hands do')}
        </p>
      )}
      <section className={shared.pictures} aria-label="What is seen">
        <HandsPicture video={video} seen={seen} running={running} loaded={loaded} profile={profile} showsCamera={running && !isStandIn(deviceId)}>
          {running && deviceId === MOVED && <MoveHand mirrored={profile.mirrored} onMove={(to) => camera.current?.tell({ kind: 'moved', to })} />}
        </HandsPicture>
        <HandsFacts seen={seen} running={looks} profile={profile} />
      </section>
      <aside className={shared.settings} aria-label="How it is seen">
        {stage && <p className={shared.said}>Pumice is on Stage: nothing is changed until it is back on the Bench.</p>}
        <ConfigProvider componentDisabled={stage}>
          <fieldset disabled={stage} className={shared.all}>
            <HandsFields profile={profile} onChange={change} />
            <TeachPoses profile={profile} running={looks && !stage} told={told} onTeach={(name) => camera.current?.tell({ kind: 'teach', name })} onChange={change} />
          </fieldset>
        </ConfigProvider>
      </aside>
    </Locked>
  );
}
