import { useMemo } from 'react';
import type { Moment } from '../../../core/ensemble/blocks';
import { useMappingStates, useMembersShown, useOutputsState, useTransport } from '../../live/useLiveFacts';
import { useRig } from '../shell/useRig';

/** What is known of this moment; what the hub has not said yet stands in nobody's way. */
export function useMoment(): Moment {
  const { document: rig } = useRig();
  const shown = useMembersShown();
  const transport = useTransport();
  const outputs = useOutputsState();
  const states = useMappingStates();
  return useMemo(() => {
    const of = (id: string) => shown.find((member) => member.id === id);
    return {
      running: transport?.running ?? false,
      isOn: (id) => of(id)?.on ?? rig.members.find((member) => member.id === id)?.on ?? false,
      // Of a stream that is no member nothing is known here.
      hasHarmony: (id) => (of(id) ? of(id)!.harmony !== null || of(id)!.pitches.length > 0 : true),
      sends: (id) => states.get(id)?.sends ?? true,
      away: (id) => outputs?.outputs.find((output) => output.id === id)?.away ?? null,
    };
  }, [rig, shown, transport?.running, outputs, states]);
}
