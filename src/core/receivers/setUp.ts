import { NULL_HALF, SELECT } from '../midi/controllers';
import { STATUS } from '../midi/message';
import type { RigOutput } from '../outputs/kinds';
import type { RigDocument } from '../rig/document';
import { layoutInWords, managerOf, voiceChannels } from './layout';
import { playedChannels } from './played';
import { counted } from '../units/counted';

/** Registered parameters (MIDI 1.0, table IIIa; MPE 1.0, section 2.1). */
const RPN = { bendRange: 0, mpeConfiguration: 6 } as const;
/** The manager of a zone bends by so much unless it is told otherwise (MPE 1.0, appendix A.2). */
const MANAGER_BEND_SEMITONES = 2;

/** What a receiver should be set to, by a message or by hand over there. */
export interface SetUpItem {
  /** What it is and its value: a tick counts for this value alone. */
  key: string;
  text: string;
  /** By messages; none: only by hand. Those of one group belong together. */
  messages: Uint8Array[];
}

/** All that a receiver should be set to so that a rig plays it right through this output. */
export function setUpItems(rig: RigDocument, output: RigOutput): SetUpItem[] {
  const receiver = rig.receivers.find(({ id }) => id === output.receiver);
  if (!receiver) return [];
  const { layout, channels, voices, program, bendRangeSemitones, lacks = [] } = receiver;
  const isBlocked = output.configuration === 'blocked';
  const byParameter = (messages: Uint8Array[]) => (isBlocked || lacks.includes('parameters') ? [] : messages);
  const played = playedChannels(rig, output);
  const items: SetUpItem[] = [];
  if (layout?.kind === 'zone') items.push({ key: `layout ${layout.zone} ${layout.members}`, text: layoutInWords(receiver), messages: byParameter([parameter(managerOf(layout), RPN.mpeConfiguration, [layout.members])]) });
  if (layout?.kind === 'run') items.push({ key: `layout run ${layout.first} ${layout.last}`, text: layoutInWords(receiver), messages: [] });
  if (channels && !layout) items.push({ key: `channels ${channels.join(' ')}`, text: `listens on channel ${channels.join(', ')}`, messages: [] });
  if (!lacks.includes('bend')) {
    const members = layout?.kind === 'zone' ? voiceChannels(layout) : played;
    const ofManager = layout?.kind === 'zone' ? [bendRange(managerOf(layout), MANAGER_BEND_SEMITONES)] : [];
    items.push({ key: `bend ${bendRangeSemitones}`, text: `bend range ${counted(bendRangeSemitones, 'semitone')}`, messages: byParameter([...ofManager, ...members.map((channel) => bendRange(channel, bendRangeSemitones))]) });
  }
  if (voices !== undefined) items.push({ key: `voices ${voices}`, text: counted(voices, 'voice'), messages: [] });
  if (program) {
    const { number, bank } = program;
    const on = layout?.kind === 'zone' ? [managerOf(layout)] : played;
    items.push({ key: `program ${number} ${bank ?? ''}`, text: `program ${number + 1}${bank === undefined ? '' : ` of bank ${bank}`}`, messages: isBlocked || lacks.includes('programs') ? [] : on.map((channel) => programChange(channel, number, bank)) });
  }
  return items;
}

/** What cannot be sent and must be set by hand over there; `isDone` where somebody said that it is. */
export function checklist(rig: RigDocument, output: RigOutput): { key: string; text: string; isDone: boolean }[] {
  const done = rig.receivers.find(({ id }) => id === output.receiver)?.setByHand ?? [];
  return setUpItems(rig, output).flatMap(({ key, text, messages }) => (messages.length > 0 ? [] : [{ key, text, isDone: done.includes(key) }]));
}

const change = (channel: number, ...pairs: [controller: number, value: number][]) => Uint8Array.from(pairs.flatMap(([controller, value]) => [STATUS.controlChange | (channel - 1), controller, value]));

/** Nothing is selected afterwards, so that data entry of somebody else changes none of it. */
function parameter(channel: number, number: number, [msb, lsb]: [msb: number, lsb?: number]): Uint8Array {
  return change(
    channel,
    [SELECT.rpnMsb, number >> 7],
    [SELECT.rpnLsb, number & 0x7f],
    [SELECT.dataMsb, msb],
    ...(lsb === undefined ? [] : [[SELECT.dataLsb, lsb] as [number, number]]),
    [SELECT.rpnMsb, NULL_HALF],
    [SELECT.rpnLsb, NULL_HALF],
  );
}

/** Semitones, and hundredths of them (MIDI 1.0, RPN 0). */
function bendRange(channel: number, semitones: number): Uint8Array {
  const whole = Math.floor(semitones);
  return parameter(channel, RPN.bendRange, [whole, Math.min(99, Math.round(100 * (semitones - whole)))]);
}

function programChange(channel: number, number: number, bank: number | undefined): Uint8Array {
  const called = [STATUS.programChange | (channel - 1), number];
  return bank === undefined ? Uint8Array.from(called) : Uint8Array.from([...change(channel, [0, bank >> 7], [32, bank & 0x7f]), ...called]);
}
