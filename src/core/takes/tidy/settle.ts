import { endsAllNotes } from '../../midi/controllers';
import { STATUS } from '../../midi/message';
import { RELEASE_VELOCITY } from '../../engine/noteBook';
import { beginsNote, channelOf, endsNote, isOfChannel, keyOf, statusOf } from '../notes';
import type { ScoreMessage } from '../score';

/**
 * Puts messages in the order of their times; those of one time stay as they stand. Then sees to it that every note on has
 * exactly one note off: a key that is struck while it sounds ends just before that, an end of what does not sound goes, and
 * what sounds at the end of the take ends there.
 */
export function settle(messages: readonly ScoreMessage[]): ScoreMessage[] {
  const sorted = messages.every((message, i) => i === 0 || message.atMs >= messages[i - 1]!.atMs) ? messages : [...messages].sort((a, b) => a.atMs - b.atMs);
  const settled: ScoreMessage[] = [];
  const sounding = new Map<string, ScoreMessage>();
  for (const message of sorted) {
    if (beginsNote(message)) {
      const key = keyOf(message);
      const before = sounding.get(key);
      if (before) settled.push(endOf(before, message.atMs));
      sounding.set(key, message);
    } else if (endsNote(message) && !sounding.delete(keyOf(message))) continue;
    settled.push(message);
  }
  const lastMs = settled.at(-1)?.atMs ?? 0;
  for (const message of sounding.values()) settled.push(endOf(message, lastMs));
  return settled;
}

/** In the order of their times: before each message that ends all notes of its channel the end of every note that it ends (MIDI 1.0, channel mode messages). */
export function spellOutEnds(messages: readonly ScoreMessage[]): ScoreMessage[] {
  // By channel of an output, then by key: a file may say it a million times while other channels sound.
  const sounding = new Map<string, Map<string, ScoreMessage>>();
  return messages.flatMap((message) => {
    if (!isOfChannel(message)) return [message];
    const channel = `${message.source.output} ${channelOf(message)}`;
    const there = sounding.get(channel) ?? new Map<string, ScoreMessage>();
    sounding.set(channel, there);
    if (beginsNote(message)) there.set(keyOf(message), message);
    else if (endsNote(message)) there.delete(keyOf(message));
    if (statusOf(message) !== STATUS.controlChange || !endsAllNotes(message.bytes[1]!)) return [message];
    const ends = Array.from(there.values(), (begun) => endOf(begun, message.atMs));
    there.clear();
    return [...ends, message];
  });
}

const endOf = ({ source, bytes }: ScoreMessage, atMs: number): ScoreMessage => ({ atMs, source, bytes: Uint8Array.of(STATUS.noteOff | (bytes[0]! & 0x0f), bytes[1]!, RELEASE_VELOCITY) });
