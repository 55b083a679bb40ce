import { useEffect, useRef } from 'react';
import { ClickTrack } from '../../core/time/clickTrack';
import type { MusicalTime } from '../../core/time/musicalTime';
import { useLive } from '../live/LiveProvider';
import { useRecording, useTransport } from '../live/useLiveFacts';
import { useRecordSettings } from '../panels/shared/useRecordSettings';
import { useRig } from '../panels/shell/useRig';
import { useSound } from './SoundProvider';

const LOOK_MS = 40;
const CLICK_S = 0.03;
const [BAR_HZ, BEAT_HZ] = [1600, 1100];

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
  const sinceMs = recording?.counting?.sinceHubMs ?? (recording?.take ? recording.beatsFromHubMs : null);
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
    const loudness = new GainNode(context);
    loudness.connect(context.destination);
    const track = new ClickTrack();
    let given: { atMs: number; tone: AudioNode }[] = [];
    const look = () => {
      const { time, untilBeat, meter, volumeDb } = now.current;
      if (!time) return;
      const nowMs = live.hubMs;
      const nowS = context.currentTime;
      loudness.gain.value = 10 ** (volumeDb / 20);
      const { takesBack, give } = track.look(nowMs, { time, meter, untilBeat });
      given = given.filter(({ atMs }) => atMs > nowMs);
      if (takesBack) for (const { tone } of given.splice(0)) tone.disconnect();
      for (const { atMs, isBar } of give) {
        const tone = click(loudness, nowS + Math.max(0, atMs - nowMs) / 1000, isBar ? BAR_HZ : BEAT_HZ);
        given.push({ atMs, tone });
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

/** @returns what to take away where it shall not be heard after all */
function click(into: AudioNode, at: number, frequency: number): AudioNode {
  const tone = new OscillatorNode(into.context, { frequency });
  const fall = new GainNode(into.context, { gain: 1 });
  fall.gain.setTargetAtTime(0, at, CLICK_S / 4);
  tone.connect(fall).connect(into);
  tone.start(at);
  tone.stop(at + CLICK_S);
  return tone;
}
