import { useEffect, useRef } from 'react';
import { clicksBetween } from '../../core/time/clicks';
import { msAt, type MusicalTime } from '../../core/time/musicalTime';
import { useLive } from '../live/LiveProvider';
import { useRecording, useTransport } from '../live/useLiveFacts';
import { useRecordSettings } from '../panels/shared/useRecordSettings';
import { useRig } from '../panels/shell/useRig';
import { useSound } from './SoundProvider';

/** Clicks are given to the sound card this much ahead, and looked after so often. */
const AHEAD_MS = 120;
const LOOK_MS = 40;
const CLICK_S = 0.03;
const [BAR_HZ, BEAT_HZ] = [1600, 1100];
/** The beat that begins a count is heard of a little after it came: it is clicked at once up to so much later. */
const LATE_MS = 100;
/** Two clicks nearer than this are one that was moved, by a nudge or a clock. */
const APART_MS = 60;

/**
 * Clicks what is counted in and recorded, where the stand-ins are heard: the beats of the transport while it runs, of the take
 * itself while it stands.
 */
export function Metronome() {
  const live = useLive();
  const { on, volumeDb } = useSound();
  const { document: rig } = useRig();
  const { settings } = useRecordSettings();
  const recording = useRecording();
  const transport = useTransport();
  const sinceMs = recording?.counting?.sinceHubMs ?? (recording?.take ? recording.sinceHubMs : null);
  const bpm = transport?.bpm ?? rig.tempoBpm;
  const time: MusicalTime | null = transport?.running ? { anchorMs: transport.atHubMs, anchorBeat: transport.beat, bpm } : sinceMs === null ? null : { anchorMs: sinceMs, anchorBeat: 0, bpm };
  // What is counted in by the transport is clicked up to its first beat, though nothing is recorded.
  const untilBeat = sinceMs === null ? 0 : Infinity;
  const now = useRef({ time, untilBeat, meter: rig.meter, volumeDb });
  now.current = { time, untilBeat, meter: rig.meter, volumeDb };

  const clicks = on && settings?.metronome === true && time !== null && (sinceMs !== null || time.anchorBeat < 0);
  useEffect(() => {
    if (!clicks) return;
    const context = new AudioContext({ latencyHint: 'interactive' });
    let givenMs = live.hubMs;
    let lastMs = -Infinity;
    let anchorMs = NaN;
    const look = () => {
      const { time, untilBeat, meter, volumeDb } = now.current;
      const nowMs = live.hubMs;
      if (!time) return;
      const begins = time.anchorMs !== anchorMs && Math.abs(nowMs - time.anchorMs) < LATE_MS;
      anchorMs = time.anchorMs;
      // What a window in the background was too late for is left out, not made up for.
      const fromMs = begins ? time.anchorMs - LATE_MS / 2 : Math.max(givenMs, nowMs);
      givenMs = nowMs + AHEAD_MS;
      for (const { atMs, isBar } of clicksBetween(time, meter, fromMs, Math.min(givenMs, msAt(time, untilBeat)))) {
        if (atMs - lastMs < APART_MS) continue;
        lastMs = atMs;
        click(context, context.currentTime + Math.max(0, atMs - nowMs) / 1000, isBar ? BAR_HZ : BEAT_HZ, volumeDb);
      }
    };
    look();
    const timer = setInterval(look, LOOK_MS);
    return () => {
      clearInterval(timer);
      void context.close();
    };
  }, [clicks, live]);
  return null;
}

function click(context: AudioContext, at: number, frequency: number, volumeDb: number): void {
  const tone = new OscillatorNode(context, { frequency });
  const gain = new GainNode(context, { gain: 10 ** (volumeDb / 20) });
  gain.gain.setTargetAtTime(0, at, CLICK_S / 4);
  tone.connect(gain).connect(context.destination);
  tone.start(at);
  tone.stop(at + CLICK_S);
}
