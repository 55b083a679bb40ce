import type { MessageSpec } from '../rig/document';
import type { PlannedMapping } from './plan';

/** Whether an edit left a mapping's filter in the same units, so that its memory still means the same. */
export function sameFilter(before: PlannedMapping, after: PlannedMapping): boolean {
  return (
    before.rig.signal === after.rig.signal &&
    before.inLo === after.inLo &&
    before.inHi === after.inHi &&
    before.rig.shaping.smoothing?.kind === after.rig.shaping.smoothing?.kind
  );
}

/** Whether what was sent last (or sounds still) stands at the same address. */
export function sameAddress(before: PlannedMapping, after: PlannedMapping): boolean {
  return (
    before.rig.signal === after.rig.signal &&
    before.rig.output === after.rig.output &&
    addressOf(before.rig.message) === addressOf(after.rig.message)
  );
}

function addressOf(message: MessageSpec): string {
  return `${message.kind} ${message.channel} ${message.kind === 'note' ? message.note : message.controller}`;
}
