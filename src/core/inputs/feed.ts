import type { RigSignal } from '../rig/document';
import type { RigInput } from './kinds';

/*
 * A feed is what brings an input its numbers: a gamepad, a port, a sender, a microphone, as it is here or was here, whether
 * or not the rig knows it. The rig's input keeps what its feed says of itself, in its field `device`.
 */

/** Kinds of inputs that have a feed. */
export type FeedKind = Exclude<RigInput['kind'], 'surface'>;

/** What a feed says of itself; the same again when it comes back. */
export interface FeedReport {
  kind: FeedKind;
  /** Its identity: of two feeds with the same report only the order of their coming tells them apart. */
  report: string;
  name: string;
}

/** One stream of numbers of a feed, before the rig knows it: what a signal is made from. */
export interface SourceReport extends Pick<RigSignal, 'name' | 'kind' | 'unit' | 'range' | 'rest' | 'period' | 'group' | 'osc'> {
  /** Names it within the feed; for OSC the address and the place of the argument. */
  key: string;
  /** The key of the source that it makes a pair with. */
  pair?: string;
  /** Goes to its rest by itself once no hand holds it, as a stick does. */
  springs?: true;
}

/** Something that arrived and that the rig does not know yet. */
export interface Found {
  feed: FeedReport & { slot: number };
  /** The input that stands for the feed already, where only some of its sources are new. */
  input?: string;
  sources: SourceReport[];
}

/** What a source says once nobody holds it: a gate, and what springs back. Null: it stays where it was put. */
export function letGoOf({ kind, springs, rest }: Pick<SourceReport, 'kind' | 'springs' | 'rest'>): number | null {
  if (kind === 'gate') return 0;
  return springs ? (rest ?? 0) : null;
}

/** Whether an input of a rig stands for a feed. */
export function isInputOf(input: RigInput, { kind, report, slot }: FeedReport & { slot: number }): boolean {
  return input.kind === kind && 'device' in input && input.device !== undefined && input.device.report === report && input.device.slot === slot;
}

/** Whether an input takes its addresses from any sender of OSC: one that names no feed. */
export function isOfAnySender(input: RigInput): boolean {
  return input.kind === 'osc' && !input.device;
}

/** Whether a signal stands for a source of its input's feed. */
export function isSignalOf(signal: RigSignal, { key, osc }: Pick<SourceReport, 'key' | 'osc'>): boolean {
  return osc ? signal.osc?.address === osc.address && signal.osc.argument === osc.argument : signal.source === key;
}

/** The key of an OSC source. */
export function oscKey(address: string, argument: number): string {
  return `${address} ${argument}`;
}
