import { useCallback, useRef } from 'react';
import { TapTempo } from '../../../core/time/tapTempo';
import { useEdit, useRig } from '../shell/useRig';
import { useTellNow } from '../shell/useTellNow';

const [LEAST_BPM, MOST_BPM] = [20, 400];
/** A tempo that is tapped is kept once the taps are over. */
const OVER_MS = 1500;

/** Taps the tempo: heard at once; on the Bench the rig keeps it when the taps are over. */
export function useTap(): () => void {
  const tell = useTellNow();
  const { stage } = useRig();
  const edit = useEdit();
  const taps = useRef(new TapTempo());
  const keeps = useRef<ReturnType<typeof setTimeout>>(undefined);
  return useCallback(() => {
    const tapped = taps.current.tap(performance.now());
    if (Number.isNaN(tapped)) return;
    const bpm = Math.min(MOST_BPM, Math.max(LEAST_BPM, tapped));
    tell({ kind: 'transport', does: 'tempo', bpm });
    clearTimeout(keeps.current);
    if (!stage) keeps.current = setTimeout(() => edit({ kind: 'setRig', set: { tempoBpm: bpm } }), OVER_MS);
  }, [tell, stage, edit]);
}
