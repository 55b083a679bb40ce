import { useEffect, useRef } from 'react';
import { useLive } from '../../live/LiveProvider';
import { VOICES_MS, VoiceTrace } from '../../pictures/voiceTrace';
import { useCanvas } from '../shared/useCanvas';

/** The voices of a voice mapping in the last seconds: pitch over time, pressure as thickness. */
export function VoicePicture({ id, className }: { id: string; className: string | undefined }) {
  const live = useLive();
  const trace = useRef(new VoiceTrace());
  const { ref, wake } = useCanvas((drawing) => trace.current.draw(drawing), true);
  useEffect(() => {
    trace.current = new VoiceTrace();
    return live.store.voices.listen(id, (voices) => {
      trace.current.push(performance.now(), voices);
      wake(VOICES_MS);
    });
  }, [live, id, wake]);
  return <canvas ref={ref} className={className} aria-hidden />;
}
