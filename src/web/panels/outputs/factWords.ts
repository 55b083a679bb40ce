import type { Who } from '../../../core/engine/sink';
import { describeBytes, hexOf } from '../../../core/midi/describe';
import type { RigDocument } from '../../../core/rig/document';
import { findSignal } from '../../../core/rig/find';
import type { NamedFact } from '../../live/store';

/** Who caused a message that no mapping did. */
const BY: Record<Exclude<Who, 'mapping'>, string> = { voice: 'a voice', scene: 'a scene', thru: 'thru', clock: 'the clock', panic: 'Panic', ending: 'end of a note', return: 'told again', test: 'the test', setUp: 'set-up', hand: 'by hand', shown: 'shown there', take: 'a take' };

/** A fact as people read it. */
export interface Words {
  what: string;
  bytes: string;
  /** The name of the input or output. */
  place: string;
  by: string;
}

export function inWords(fact: NamedFact, rig: RigDocument): Words {
  if (fact.bytes) {
    const mapping = [...rig.mappings, ...rig.voiceMappings].find(({ id }) => id === fact.mapping);
    return { what: describeBytes(fact.bytes), bytes: hexOf(fact.bytes), place: rig.outputs.find(({ id }) => id === fact.where)?.name ?? fact.where, by: mapping?.name ?? (fact.who === 'mapping' ? (fact.mapping ?? '') : BY[fact.who!]) };
  }
  const found = findSignal(rig, fact.where);
  return { what: `${found?.signal.name ?? fact.where} · ${fact.value!.toFixed(3)}`, bytes: '', place: found?.from ?? '', by: '' };
}

/** Whether words hold everything that is looked for, in any order. */
export function hasAll(words: Words, wanted: string): boolean {
  const text = Object.values(words).join(' · ').toLowerCase();
  return wanted.toLowerCase().split(/[,·]/).every((part) => text.includes(part.trim()));
}

/** Time of day to the millisecond. @param behindMs how far the hub's clock is behind the calendar */
export function clockTime(hubTimeMs: number, behindMs: number): string {
  return `${new Date(hubTimeMs + behindMs).toLocaleTimeString('en-GB')}.${String(Math.floor(hubTimeMs % 1000)).padStart(3, '0')}`;
}
