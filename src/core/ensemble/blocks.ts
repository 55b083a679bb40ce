import { passesFilter } from '../outputs/filter';
import type { RigDocument } from '../rig/document';
import { STATUS } from '../midi/message';
import { channelsOf } from '../voices/layout';
import { memberKind } from './kinds';
import type { RigMember } from './parts';

/** What is known of the moment; what is not known blocks nothing. */
export interface Moment {
  running: boolean;
  /** By member: whether it is on now, and whether a chord is heard of it or anything is held there. */
  isOn(member: string): boolean;
  hasHarmony(stream: string): boolean;
  /** Whether a voice mapping sends now. */
  sends(voiceMapping: string): boolean;
  /** Why nothing can leave by an output; null where it can. */
  away(output: string): string | null;
}

/**
 * Why a member is not heard now: all that stands in the way, each as a sentence of a few words. Empty where nothing does.
 */
export function blocksOf(rig: RigDocument, member: RigMember, moment: Moment): string[] {
  const found: string[] = [];
  if (!moment.isOn(member.id)) found.push(member.on ? 'off by a scene' : 'off');
  else if (!member.alone && rig.members.some(({ alone }) => alone)) found.push(`${listed(rig.members.filter(({ alone }) => alone).map(({ name }) => name))} alone`);
  if (member.level === 0) found.push('level 0');
  found.push(...waysBlocked(rig, member, moment));
  const { part } = member;
  if (memberKind(part).steps?.withTransport && !moment.running) found.push('waits for the transport');
  else if (needsHarmony(member) && 'listens' in part && part.listens !== undefined && !moment.hasHarmony(part.listens)) found.push('no chord yet');
  return found;
}

/** Whether it is silent without something that sounds on the stream that it listens to. */
function needsHarmony({ part }: RigMember): boolean {
  return part.kind === 'bass' || part.kind === 'strum';
}

function waysBlocked(rig: RigDocument, member: RigMember, moment: Moment): string[] {
  const ways = rig.voiceMappings.filter(({ stream }) => stream === member.id);
  if (ways.length === 0) return ['goes nowhere: choose an output'];
  const reasons = ways.map((mapping): string | null => {
    const output = rig.outputs.find(({ id }) => id === mapping.output);
    if (!output) return 'its output is gone';
    if (!mapping.on) return 'its voice mapping is off';
    if (!moment.sends(mapping.id)) return 'its voice mapping is off by a scene';
    const away = moment.away(output.id);
    if (away !== null) return `${output.name} ${away}`;
    if (output.muted) return `${output.name} is muted`;
    const filter = 'filter' in output ? output.filter : undefined;
    if (filter && mapping.layout.kind !== 'osc' && channelsOf(mapping.layout).every((channel) => !passesFilter(filter, Uint8Array.of(STATUS.noteOn | (channel - 1), 60, 1)))) return `the filter of ${output.name} holds it back`;
    return null;
  });
  // One way that is open is enough.
  return reasons.includes(null) ? [] : [...new Set(reasons as string[])];
}

const listed = (names: readonly string[]) => names.join(' and ');
