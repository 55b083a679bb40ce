'use client';

import { App } from 'antd';
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { HERE } from '../live/store';
import { useLive } from '../live/LiveProvider';
import { useRigStore } from '../live/RigProvider';
import { Practice } from './practice';
import { ofBrowser } from '../remember';

const VOLUME = 'pumice.sound-volume';
const USUAL_VOLUME_DB = -12;
/** A batch of messages that is later than this is heard to lag. */
const LAG_MS = 120;
/** A browser that has not begun to sound by then may never: without a loudspeaker some wait for one, and never say so. */
const BEGINS_MS = 2000;
/** A lag is said for so long after it was heard last. */
const SAID_MS = 2000;

interface Sound {
  on: boolean;
  setOn(on: boolean): void;
  volumeDb: number;
  setVolumeDb(volumeDb: number): void;
  /** How late it was lately, where that could be heard; else null. */
  lagMs: number | null;
  /** What sounds now, in dB; -Infinity while it is off. */
  levelDb(): number;
}

const SoundContext = createContext<Sound | null>(null);

/** Plays the stand-in receivers of the open rig in this page, once somebody has switched it on: browsers want a click. */
export function SoundProvider({ children }: { children: ReactNode }) {
  const live = useLive();
  const store = useRigStore();
  const { message } = App.useApp();
  const [on, setOnNow] = useState(false);
  const [volumeDb, setVolume] = useState(USUAL_VOLUME_DB);
  const [lagMs, setLagMs] = useState<number | null>(null);
  const practice = useRef<Practice | null>(null);
  const volume = useRef(USUAL_VOLUME_DB);
  const hasContext = useRef(false);

  useEffect(() => {
    const stored = Number(ofBrowser.get(VOLUME) ?? NaN);
    if (Number.isFinite(stored)) setVolume((volume.current = stored));
  }, []);
  const setVolumeDb = useCallback((next: number) => {
    setVolume((volume.current = next));
    ofBrowser.set(VOLUME, String(next));
    if (practice.current) practice.current.volumeDb = next;
  }, []);
  const setOn = useCallback(
    (next: boolean) => {
      if (!next) return setOnNow(false);
      // Else the library writes its name into the console.
      Object.assign(globalThis, { TONE_SILENCE_LOGGING: true });
      // The library is fetched when it is wanted, and not before.
      void import('./tone')
        .then(async (tone) => {
          // What is played is heard at once, and the page allows no worker of the library's own making. One context is enough for a page.
          if (!hasContext.current) tone.setContext(new tone.Context({ latencyHint: 'interactive', lookAhead: 0, clockSource: 'timeout' }));
          hasContext.current = true;
          const late = setTimeout(() => void message.warning('The browser gives no sound yet: look whether this computer has a loudspeaker, and whether the browser lets this page be heard.', 8), BEGINS_MS);
          await tone.start().finally(() => clearTimeout(late));
          practice.current ??= new Practice(tone, volume.current);
          setOnNow(true);
        })
        .catch(() => void message.error('This browser gives no sound: try another, or switch sound on there.'));
    },
    [message],
  );

  useEffect(() => {
    const playing = practice.current;
    if (!on || !playing) return;
    /** By output: waits to be told what it holds. */
    const waits = new Map<string, () => void>();
    const told = (output: string) => {
      waits.get(output)?.();
      waits.delete(output);
    };
    const follow = () => {
      playing.follow(store.current().document);
      const { unknown } = playing;
      for (const output of waits.keys()) if (!unknown.includes(output)) told(output);
      for (const output of unknown) {
        // What nobody looks at any more is as it was then.
        const known = live.store.heard.watched.includes(output) && !waits.has(output) ? live.store.heard.value(output) : undefined;
        if (known) playing.holds(output, known.values());
        else if (!waits.has(output))
          waits.set(
            output,
            live.store.heard.listen(output, (held) => {
              playing.holds(output, held.values());
              told(output);
            }),
          );
      }
    };
    follow();
    const stops = [
      () => waits.forEach((stop) => stop()),
      store.subscribe(follow),
      live.store.facts.listen(HERE, (facts, dropped) => {
        // More came than is shown to a page: among what is missing may be the end of a note.
        if (dropped > 0) playing.silence();
        playing.hear(facts);
        const left = facts.findLast(({ direction }) => direction === 'out');
        const nowMs = live.clock.toHub(performance.timeOrigin + performance.now());
        if (!left || nowMs === 0) return;
        const late = nowMs - left.hubTimeMs;
        if (late > LAG_MS) setLagMs(Math.round(late));
      }),
      // What the line could not say any more may have been the end of a note.
      live.state.listen(() => live.status !== 'open' && playing.silence()),
    ];
    return () => {
      for (const stop of stops) stop();
      playing.dispose();
      practice.current = null;
    };
  }, [on, live, store]);
  useEffect(() => {
    if (lagMs === null) return;
    const over = setTimeout(() => setLagMs(null), SAID_MS);
    return () => clearTimeout(over);
  }, [lagMs]);

  const sound = useMemo(() => ({ on, setOn, volumeDb, setVolumeDb, lagMs, levelDb: () => practice.current?.levelDb ?? -Infinity }), [on, setOn, volumeDb, setVolumeDb, lagMs]);
  return <SoundContext value={sound}>{children}</SoundContext>;
}

export function useSound(): Sound {
  const sound = useContext(SoundContext);
  if (!sound) throw new Error('useSound needs a SoundProvider above it');
  return sound;
}
