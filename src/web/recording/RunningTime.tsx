import { useEffect, useState } from 'react';
import { useLive } from '../live/LiveProvider';
import { useRecording } from '../live/useLiveFacts';
import { clockOf } from './words';

/** How long the take is by now, or how long it is until it begins. */
export function RunningTime() {
  const live = useLive();
  const recording = useRecording();
  const [, again] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => again((count) => count + 1), 250);
    return () => clearInterval(timer);
  }, []);
  // While it is counted in, the seconds that are left.
  if (recording?.counting) return <time role="timer">−{clockOf(Math.max(0, recording.counting.untilHubMs - live.hubMs + 999))}</time>;
  return <time role="timer">{clockOf(Math.max(0, live.hubMs - (recording?.sinceHubMs ?? 0)))}</time>;
}
