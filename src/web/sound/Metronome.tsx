import { useEffect } from 'react';
import { useLive } from '../live/LiveProvider';
import { useRecording } from '../live/useLiveFacts';
import { useRecordSettings } from '../panels/shared/useRecordSettings';
import { useRig } from '../panels/shell/useRig';
import { useSound } from './SoundProvider';

/** Clicks are given to the sound card this much ahead, and looked after so often. */
const AHEAD_MS = 120;
const LOOK_MS = 40;
const CLICK_S = 0.03;
const [BAR_HZ, BEAT_HZ] = [1600, 1100];
const LOUD = 0.25;

/** The next beat at or after a time, counted from a beginning. */
export const beatAfter = (sinceMs: number, fromMs: number, beatMs: number): number => Math.max(0, Math.ceil((fromMs - sinceMs) / beatMs - 1e-9));

/** Clicks the beats of what is counted in and recorded, where the stand-ins are heard. */
export function Metronome() {
  const live = useLive();
  const { on } = useSound();
  const { document: rig } = useRig();
  const { settings } = useRecordSettings();
  const recording = useRecording();
  const sinceMs = recording?.counting?.sinceHubMs ?? (recording?.take ? recording.sinceHubMs : null);
  const clicks = on && settings?.metronome === true && sinceMs !== null;
  const beatMs = 60_000 / rig.tempoBpm;
  const beatsPerBar = settings?.beatsPerBar ?? 4;
  useEffect(() => {
    if (!clicks) return;
    const context = new AudioContext({ latencyHint: 'interactive' });
    let next = beatAfter(sinceMs, live.hubMs, beatMs);
    const timer = setInterval(() => {
      for (const nowMs = live.hubMs; sinceMs + next * beatMs < nowMs + AHEAD_MS; next++) {
        const at = context.currentTime + Math.max(0, sinceMs + next * beatMs - nowMs) / 1000;
        const tone = new OscillatorNode(context, { frequency: next % beatsPerBar === 0 ? BAR_HZ : BEAT_HZ });
        const gain = new GainNode(context, { gain: LOUD });
        gain.gain.setTargetAtTime(0, at, CLICK_S / 4);
        tone.connect(gain).connect(context.destination);
        tone.start(at);
        tone.stop(at + CLICK_S);
      }
    }, LOOK_MS);
    return () => {
      clearInterval(timer);
      void context.close();
    };
  }, [clicks, sinceMs, beatMs, beatsPerBar, live]);
  return null;
}
