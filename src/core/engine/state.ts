import type { Running } from './running';
import { keep, putBack, type Kept } from './snapshot';

/** What an engine remembers. */
export interface EngineState {
  /** Of what was sent to an address something is known also where no mapping has it any more: by key, in their places. */
  addresses: string[];
  kept: Kept;
}

/** A copy of all that an engine remembers. @param thrus its inputs with a thru, which own notes by their places */
export function keepState(r: Running, thrus: string[]): EngineState {
  return { addresses: r.plan.addresses.map(({ key }) => key), kept: keep(remembered(r, thrus)) };
}

/** Goes on from there. Throws where it is of another rig. */
export function resume(r: Running, thrus: string[], { kept }: EngineState): void {
  const all = remembered(r, thrus);
  putBack(all, kept);
  r.nowMs = all.nowMs;
  // What an earlier version of Pumice remembered has no musical time.
  if (r.nowMs > -Infinity) r.transport.begin(r.nowMs);
  r.ensemble.resume();
}

function remembered({ memory, writer, notes, active, due, nowMs, transport }: Running, thrus: string[]) {
  const { sent, selected, used } = writer;
  return { memory, sent, selected, used, notes, active, due, nowMs, transport: transport.state, thrus };
}
