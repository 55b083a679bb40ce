import type { Plan } from '../engine/plan';
import { decode } from '../midi/decode';
import { MidiStreams } from '../voices/midiStreams';
import { LogWriter, type LogPiece } from './log';
import type { Messages } from './scoreTable';

const TICK_MS = 4;
const PIECE_BYTES = 64 * 1024;

/**
 * The notes of messages as voices of one stream, so that they play through its voice mappings: bends, pressures and slide go with
 * them, MPE zones are read, pedals too (see `MidiStreams`). What else the messages hold has no place in a stream.
 */
export function voicesOf(messages: Messages, plan: Plan, streamId: string, lengthMs: number): LogPiece[] {
  const stream = plan.streamIndex.get(streamId);
  if (stream === undefined) throw new Error(`The rig has no stream "${streamId}".`);
  const writer = new LogWriter();
  const pieces: LogPiece[] = [];
  let timeMs = 0;
  const streams = new MidiStreams({
    voice: (_, event) => writer.write({ ...event, stream, timeMs }, plan),
    pedal: (_, controller, value) => writer.write({ kind: 'pedal', stream, controller, value, timeMs }, plan),
  });
  streams.setStreams([{ id: streamId, name: streamId, input: '', source: 'all' }]);
  const flush = () => {
    const piece = writer.take();
    if (piece) pieces.push(piece);
  };
  writer.write({ kind: 'start', timeMs: 0 }, plan);
  let tickMs = TICK_MS;
  const ticksUntil = (untilMs: number) => {
    for (; tickMs <= untilMs; tickMs += TICK_MS) writer.write({ kind: 'tick', timeMs: tickMs }, plan);
  };
  for (let i = 0; i < messages.length; i++) {
    const { atMs, bytes } = messages.at(i)!;
    ticksUntil(atMs);
    timeMs = atMs;
    const message = decode(bytes);
    if (message) streams.message(message);
    if (writer.length > PIECE_BYTES) flush();
  }
  ticksUntil(lengthMs);
  timeMs = lengthMs;
  streams.letGo();
  flush();
  return pieces;
}
