import { ActiveSet } from './activeSet';
import { NoteBook } from './noteBook';
import { FIRST_THRU, HAND, TAKE } from './pass';
import type { Plan } from './plan';
import { NONE } from './planMapping';
import type { Running, Ways } from './running';
import { BY_ENDING, BY_HAND, BY_SCENE, BY_TAKE, BY_THRU, VOICE_BASE, type MessageSink } from './sink';
import { FIRST_VOICE } from './voices/memory';
import { Writer } from './writer';

/** Empty ways out for a plan. `running` is asked once something leaves, when all of it is there. */
export function waysFor(plan: Plan, sink: MessageSink, running: () => Running): Ways {
  const byVoice = (owner: number) => {
    const v = running().memory.voices.ownedBy[FIRST_VOICE - owner] ?? NONE;
    return v === NONE ? BY_ENDING : VOICE_BASE + v;
  };
  const byOwner = (owner: number) => (owner >= 0 ? owner : owner === HAND ? BY_HAND : owner === TAKE ? BY_TAKE : owner <= FIRST_VOICE ? byVoice(owner) : owner <= FIRST_THRU ? BY_THRU : BY_SCENE);
  return {
    writer: new Writer(plan.addresses.length, plan.slowOutput, sink, (output, channel) => running().notes.endChannel(output, channel)),
    notes: new NoteBook(plan.outputIds.length, plan.mappings.length, (output, owner, on, channel, note, velocity) => running().writer.note(output, byOwner(owner), on, channel, note, velocity)),
    active: new ActiveSet(plan.mappings.length),
    moving: allMoving(plan),
    tickMoved: new Uint8Array(plan.derived.length),
    quietUntilMs: Float64Array.of(-Infinity),
    movedMappings: new ActiveSet(plan.mappings.length),
    movedSignals: new ActiveSet(plan.signalIds.length),
    movedVoices: new ActiveSet(plan.voices.length),
  };
}

/** Until ticks have found that they rest. */
function allMoving({ derived }: Plan): ActiveSet {
  const moving = new ActiveSet(derived.length);
  derived.forEach(({ kind }, d) => kind.movesByItself && moving.add(d));
  return moving;
}
