import { NONE } from './planMapping';
import type { Running } from './running';
import { enter } from './shape';
import { SLOT, SLOTS } from './slots';

/**
 * A receiver says at what value it stands, in the numbers of the wire: the address holds that now and the signal stands where it
 * would have sent it, but nothing leaves. False where the mapping is off or holds no such value, or it is what it sent last.
 */
export function cameBack(r: Running, m: number, wire: number, signalValue: number): boolean {
  const { plan, memory, writer } = r;
  const mapping = plan.mappings[m];
  if (!mapping || !memory.on[m] || mapping.gateMessage || mapping.relative || mapping.isOsc || mapping.address === NONE || writer.sent[mapping.address] === wire) return false;
  const { state } = memory;
  const at = m * SLOTS;
  writer.sent[mapping.address] = wire;
  memory.speakers[mapping.address] = m;
  const { outLo, outHi } = mapping;
  state[at + SLOT.exact] = wire;
  state[at + SLOT.waits] = 0;
  memory.levels[m] = state[at + SLOT.level] = outHi === outLo ? 0 : Math.min(1, Math.max(0, (wire - outLo) / (outHi - outLo)));
  memory.values[mapping.signal] = signalValue;
  // The next touch goes on from here, not from where smoothing was.
  enter(mapping, state, at, memory.values);
  for (const slot of [SLOT.filtered, SLOT.target, SLOT.from, SLOT.to]) state[at + slot] = state[at + SLOT.entered]!;
  r.movedMappings.add(m);
  r.movedSignals.add(mapping.signal);
  return true;
}
