import { setUpItems } from '../receivers/setUp';
import { sayPresent } from './drive';
import { act } from './gates';
import { NONE } from './planMapping';
import type { Running } from './running';
import { mergeAgain, send } from './send';
import { BY_SETUP } from './sink';
import { SLOT, SLOTS } from './slots';
import { forgetSaid } from './voices/switching';

/** Sends a level of one mapping as if its shaping had given it; a message that happens at once is pressed or let go of. False where there is none. */
export function show(r: Running, m: number, level: number): boolean {
  const mapping = r.plan.mappings[m];
  if (!mapping) return false;
  const { state } = r.memory;
  const at = m * SLOTS;
  if (!mapping.gateMessage) {
    state[at + SLOT.level] = level;
    send(r, m, mapping, at);
  } else if (level > 0 !== state[at + SLOT.held]! > 0) {
    state[at + SLOT.held] = Number(level > 0);
    act(r, m, mapping, level > 0, level);
  }
  return true;
}

/** Sends the present values of mappings once more, whatever the receiver was sent before. */
export function sayAgain(r: Running, mappings: Iterable<number>): true {
  for (const m of mappings) {
    const address = r.plan.mappings[m]?.address;
    if (address === undefined) continue;
    if (address !== NONE) r.writer.forget(address);
    sayPresent(r, m, 'again');
    mergeAgain(r, m);
  }
  // What voices said meanwhile may not have left.
  forgetSaid(r);
  return true;
}

/** Sets the receiver of an output up; by the writer, so that it knows which parameter is selected afterwards. False where there is no such MIDI output. */
export function setUpReceiver({ plan, writer }: Running, output: string): boolean {
  const place = plan.outputIds.indexOf(output);
  if (place < 0 || !plan.midiOutput[place]) return false;
  for (const { messages } of setUpItems(plan.rig, plan.rig.outputs[place]!)) for (const bytes of messages) writer.raw(place, bytes, BY_SETUP);
  return true;
}
