import { rangeOut } from '../shaping/rangeOut';
import { channelPressure, type ChannelPressure } from './channelPressure';
import { controlChange, type ControlChange } from './controlChange';
import { controlChange14, type ControlChange14 } from './controlChange14';
import type { MessageKind, Range } from './kind';
import type { Shape } from './shapes';
import { machine, type Machine } from './machine';
import { note, type Note } from './note';
import { osc, type Osc } from './osc';
import { parameter, type Parameter } from './parameter';
import { pitchBend, type PitchBend } from './pitchBend';
import { polyPressure, type PolyPressure } from './polyPressure';
import { programChange, type ProgramChange } from './programChange';
import { relative, type Relative } from './relative';
import { sysEx, type SysEx } from './sysEx';
import { transport, type Transport } from './transport';

/** What a level becomes. Channels are 1-16; `range` is in the message's own unit and may run downwards. */
export type MessageSpec = ControlChange | ControlChange14 | Parameter | PitchBend | ChannelPressure | PolyPressure | Note | ProgramChange | Relative | Transport | Machine | SysEx | Osc;

/** Every kind of message, in the order in which they are offered. */
export const MESSAGES: { [K in MessageSpec['kind']]: MessageKind<Extract<MessageSpec, { kind: K }>> } = {
  controlChange,
  controlChange14,
  parameter,
  pitchBend,
  channelPressure,
  polyPressure,
  note,
  programChange,
  relative,
  transport,
  machine,
  sysEx,
  osc,
};

export const MESSAGE_KINDS = Object.keys(MESSAGES) as MessageSpec['kind'][];

/** What is known of the kind of a message. */
export function kindOf<M extends MessageSpec>(message: M): MessageKind<M> {
  return MESSAGES[message.kind] as unknown as MessageKind<M>;
}

/** Whether a message happens on a press rather than following a level. */
export function isGateMessage(message: MessageSpec, signalKind: 'continuous' | 'gate'): boolean {
  const { presses } = kindOf(message);
  return presses === 'always' || (presses === 'byGates' && signalKind === 'gate');
}

/** What tells one address from another: two mappings with the same key send to the same place. */
export function addressKey(output: string, message: MessageSpec): string {
  return `${output} ${kindOf(message).address(message)}`;
}

/** The channel of a message, or 0 for those that have none. */
export function channelOf(message: MessageSpec): number {
  return 'channel' in message ? message.channel : 0;
}

/** The address of a message in words, as `channel 3 · CC 21`. */
export function addressInWords(message: MessageSpec): string {
  return `${'channel' in message ? `channel ${message.channel} · ` : ''}${kindOf(message).words(message)}`;
}

/** What leaves at a level in [0, 1], in the message's own unit; on and off are the velocity (or 1) and 0. */
export function leaving(message: MessageSpec, level: number): number {
  return kindOf(message).leaving?.(message, level) ?? Math.round(rangeOut(level, ...rangeOf(message)));
}

/** How much of what the message can hold leaves at a level, from 0 to 1, for a meter or a picture. */
export function fullness(message: MessageSpec, level: number): number {
  return kindOf(message).fullness?.(message, level) ?? shareOfLimits(message, rangeOut(level, ...rangeOf(message)));
}

/** How much that is where it is neither up nor down: a meter grows from there, of a bend both ways. */
export function fullnessAtRest(message: MessageSpec): number {
  return shareOfLimits(message, kindOf(message).restsAt?.(message) ?? 0);
}

function shareOfLimits(message: MessageSpec, value: number): number {
  const [lo, hi] = kindOf(message).limits?.(message) ?? [0, 1];
  return Math.min(1, Math.max(0, (value - lo) / (hi - lo)));
}

/** The fields of a message that hold a number now, with the ends that they may have. */
export function numbersOf(message: MessageSpec): { field: string; value: number; least: number; most: number }[] {
  return Object.entries(kindOf(message).fields).flatMap(([field, shape]) => {
    const value = (message as unknown as Record<string, unknown>)[field];
    const held = shape.is === 'objectOr' ? shape.other : shape;
    return held.is === 'number' && !shape.optional && typeof value === 'number' ? [{ field, value, least: held.least, most: held.most }] : [];
  });
}

/** The furthest ends that the range of a message may be given. */
export function rangeEnds(message: Extract<MessageSpec, { range: Range }>): Range {
  let shape: Shape = kindOf(message).fields.range!;
  if (shape.is === 'by') shape = (message as unknown as Record<string, unknown>)[shape.field] === shape.value ? shape.then : shape.otherwise;
  return shape.is === 'pair' && shape.of.is === 'number' ? [shape.of.least, shape.of.most] : [0, 127];
}

/** The range of a message in the numbers of the wire: bends in semitones by the receiver's range, programs from 0. */
export function wireRange(message: MessageSpec, bendRangeSemitones: number): Range {
  return kindOf(message).wireRange?.(message, bendRangeSemitones) ?? rangeOf(message);
}

/** The smallest and largest number that a message holds on the wire. */
export function wireLimits(message: MessageSpec): Range {
  return kindOf(message).wireLimits?.(message) ?? [0, 127];
}

function rangeOf(message: MessageSpec): Range {
  return 'range' in message ? message.range : [0, 1];
}
