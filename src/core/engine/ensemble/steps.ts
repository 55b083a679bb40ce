import type { RigMember } from '../../ensemble/parts';
import { ON_IT, swingDelay } from '../../time/musicalTime';
import type { Transport } from '../transport';
import type { MemberState } from './memory';

/** Steps begin at a beat: those that go with the transport count from the beginning of the piece, others from there. */
export function beginSteps(state: MemberState, fromBeat: number, withTransport: boolean, everyBeats: number): void {
  state.anchorBeat = withTransport ? 0 : fromBeat;
  state.step = withTransport ? Math.max(0, Math.ceil(fromBeat / everyBeats - ON_IT)) : 0;
  state.everyBeats = everyBeats;
}

/** Steps go on at another rate, on its own grid. */
export function setRate(state: MemberState, beat: number, everyBeats: number): void {
  if (everyBeats !== state.everyBeats) state.step = Math.ceil((beat - state.anchorBeat) / everyBeats - ON_IT);
  state.everyBeats = everyBeats;
}

/** When the next step is due; Infinity while they rest. */
export function stepMs({ anchorBeat, step, everyBeats, restsMs }: MemberState, { swing, feelMs }: RigMember, transport: Transport): number {
  if (Number.isNaN(anchorBeat) || !Number.isNaN(restsMs)) return Infinity;
  return transport.msAt(anchorBeat + (step + swingDelay(step, swing)) * everyBeats) + feelMs;
}
