import { placeOf, type CurveLane, type NoteLane } from '../../../core/takes/lanes';
import { describeBytes, hexOf, noteName } from '../../../core/midi/describe';
import { STATUS } from '../../../core/midi/message';
import type { SignalLane } from './takeMessages';
import { preciseClockOf } from '../../recording/words';

/** What a lane holds at a time, in words, bytes and time. `pitch`: how high the pointer stands in a lane of notes. */
export function atPointer(lane: NoteLane | CurveLane | SignalLane, atMs: number, pitch: number): string {
  const time = preciseClockOf(Math.max(0, atMs));
  if (lane.kind === 'notes') return `${time} · ${noteAt(lane, atMs, pitch) ?? 'no note'}`;
  const i = placeOf(lane.atMs, atMs + 1e-9) - 1;
  if (i < 0) return `${time} · nothing yet`;
  const value = lane.value[i]!;
  if (lane.kind === 'signal') return `${time} · ${Math.round(value * 1000) / 1000}, since ${preciseClockOf(lane.atMs[i]!)}`;
  const bytes = bytesOf(lane, value);
  return `${time} · ${describeBytes(bytes[0]!)}${lane.most > 127 && lane.status === STATUS.controlChange ? ` (${value} of 14 bits)` : ''} · ${bytes.map(hexOf).join('  ')} · since ${preciseClockOf(lane.atMs[i]!)}`;
}

function noteAt(lane: NoteLane, atMs: number, pitch: number): string | null {
  let found = -1;
  let nearest = Infinity;
  for (let i = 0; i < lane.fromMs.length && lane.fromMs[i]! <= atMs; i++) {
    if (lane.toMs[i]! < atMs) continue;
    const away = Math.abs(soundsAt(lane, i, atMs) - pitch);
    if (away < nearest) [found, nearest] = [i, away];
  }
  if (found < 0) return null;
  const key = lane.key[found]!;
  const cents = Math.round(100 * (soundsAt(lane, found, atMs) - key));
  const on = Uint8Array.of(STATUS.noteOn | (lane.channel[found]! - 1), key, lane.strike[found]!);
  return `${noteName(key)}${cents === 0 ? '' : ` ${cents > 0 ? '+' : '−'}${Math.abs(cents)} cents`} · ${describeBytes(on)} · ${hexOf(on)} · ${preciseClockOf(lane.fromMs[found]!)} to ${preciseClockOf(lane.toMs[found]!)}`;
}

function soundsAt({ moves, moveMs, movePitch }: NoteLane, note: number, atMs: number): number {
  const [first, last] = [moves[note]!, moves[note + 1]!];
  return movePitch[Math.max(first, first + placeOf(moveMs.subarray(first, last), atMs + 1e-9) - 1)]!;
}

/** The messages that say a value of a curve. */
function bytesOf({ status, channel, number, most }: CurveLane, value: number): Uint8Array[] {
  const first = status | (channel - 1);
  if (status === STATUS.pitchBend) return [Uint8Array.of(first, value & 127, value >> 7)];
  if (status === STATUS.channelPressure) return [Uint8Array.of(first, value)];
  if (most > 127) return [Uint8Array.of(first, number, value >> 7), Uint8Array.of(first, number + 32, value & 127)];
  return [Uint8Array.of(first, number, value)];
}
