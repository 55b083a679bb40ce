import { kindOf, MESSAGES, type MessageSpec } from '../messages';
import type { Before } from '../messages/kind';
import type { RigDocument } from '../rig/document';
import { freeControllers, openChannels } from './ledger';

const MIDDLE_C = 60;

/**
 * A message of another kind in the place of one: on its channel, with its number where it has one, else the next free one; over
 * the same part of what the message holds, and in the same direction.
 */
export function freshMessage(kind: MessageSpec['kind'], before: MessageSpec, rig: RigDocument, output: string): MessageSpec {
  const made = MESSAGES[kind].fresh(keptOf(before, rig, output));
  if (!('range' in made) || !('range' in before)) return made;
  const [lo, hi] = kindOf(before).limits!(before);
  const [least, most] = kindOf(made).limits!(made);
  const laid = (value: number) => {
    const place = least + ((value - lo) / (hi - lo || 1)) * (most - least);
    return made.kind === 'osc' ? Number(place.toPrecision(6)) : Math.round(place);
  };
  return { ...made, range: [laid(before.range[0]), laid(before.range[1])] } as MessageSpec;
}

function keptOf(before: MessageSpec, rig: RigDocument, output: string): Before {
  const channel = 'channel' in before ? before.channel : (openChannels(rig, output)[0] ?? 1);
  const free = freeControllers(rig, output, channel);
  return {
    channel,
    controller: 'controller' in before ? before.controller : (free[0] ?? 20),
    note: 'note' in before && typeof before.note === 'number' ? before.note : MIDDLE_C,
    free,
  };
}
