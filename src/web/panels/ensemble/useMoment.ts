import { useMemo } from 'react';
import type { Moment } from '../../../core/ensemble/blocks';
import { memberKind } from '../../../core/ensemble/kinds';
import { useIsRunning, useMembersReady, useNotSending, useOutputsState } from '../../live/useLiveFacts';
import { useRig } from '../shell/useRig';

/** What is known of this moment; what the hub has not said yet stands in nobody's way. */
export function useMoment(): Moment {
  const { document: rig } = useRig();
  const ready = useMembersReady();
  const running = useIsRunning();
  const outputs = useOutputsState();
  const notSending = useNotSending();
  return useMemo(() => {
    const known = JSON.parse(ready) as Record<string, { on: boolean; chord: boolean }>;
    const silent = new Set(JSON.parse(notSending) as string[]);
    const memberOf = (id: string) => rig.members.find((member) => member.id === id);
    return {
      running,
      isOn: (id) => known[id]?.on ?? memberOf(id)?.on ?? false,
      // Of what has no chord of its own nothing is known here.
      hasHarmony: (id) => {
        const member = memberOf(id);
        return member === undefined || memberKind(member.part).harmony === undefined || known[id]?.chord === true;
      },
      sends: (id) => !silent.has(id),
      away: (id) => outputs?.outputs.find((output) => output.id === id)?.away ?? null,
    };
  }, [rig, ready, running, outputs, notSending]);
}
