import { useEffect, useState } from 'react';
import { useLive } from '../../live/LiveProvider';
import { useRig } from '../shell/useRig';

/** The pitches that sound now of what inputs play, members left out. */
export function useSoundingNow(): number[] {
  const live = useLive();
  const { document: rig } = useRig();
  const [pitches, setPitches] = useState<number[]>([]);
  useEffect(() => {
    const played = rig.voiceMappings.filter(({ stream }) => rig.streams.some(({ id }) => id === stream));
    const sounding = new Map<string, number[]>();
    const ends = played.map(({ id }) =>
      live.store.voices.listen(id, (voices) => {
        sounding.set(id, voices.map(({ pitch }) => pitch));
        setPitches([...sounding.values()].flat());
      }),
    );
    return () => ends.forEach((end) => end());
  }, [live, rig.voiceMappings, rig.streams]);
  return pitches;
}
