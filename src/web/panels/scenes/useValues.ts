import { useEffect } from 'react';
import { useLive } from '../../live/LiveProvider';
import { useRig } from '../shell/useRig';

/** Where the controls stand when it is asked, as far as this page knows. */
export function useValues(): () => Record<string, number> {
  const live = useLive();
  const { document: rig } = useRig();
  useEffect(() => {
    const removes = rig.signals.map(({ id }) => live.onSignal(id, () => undefined));
    return () => removes.forEach((remove) => remove());
  }, [live, rig]);
  return () => Object.fromEntries(rig.signals.flatMap(({ id }) => (live.signalValue(id) === undefined ? [] : [[id, live.signalValue(id)!]])));
}
