import { writeMidi, type MidiEvent } from 'midi-file';
import { decode } from '../core/midi/decode';

/** The one module that knows the package for Standard MIDI Files. */

/** Ticks of a quarter note in the files that we write. */
const TICKS_PER_BEAT = 960;

/** A message at a time from the beginning of the take, in ms. */
export interface TimedMessage {
  timeMs: number;
  track: string;
  bytes: Uint8Array;
}

/**
 * A Standard MIDI File, format 1 (SMF 1.0, RP-001): a tempo track, then one track for each name in the order of their
 * first message. Real-time and other system messages have no place in a file and are left out.
 */
export function writeMidiFile(messages: readonly TimedMessage[], tempoBpm: number): Uint8Array {
  const tracks = new Map<string, MidiEvent[]>();
  const lastTick = new Map<string, number>();
  for (const { timeMs, track, bytes } of messages) {
    const event = toEvent(bytes);
    if (!event) continue;
    const events = tracks.get(track) ?? [{ deltaTime: 0, meta: true, type: 'trackName', text: track } satisfies MidiEvent];
    tracks.set(track, events);
    const tick = Math.round((Math.max(0, timeMs) * tempoBpm * TICKS_PER_BEAT) / 60_000);
    const deltaTime = Math.max(0, tick - (lastTick.get(track) ?? 0));
    lastTick.set(track, Math.max(tick, lastTick.get(track) ?? 0));
    events.push({ ...event, deltaTime });
  }
  const end: MidiEvent = { deltaTime: 0, meta: true, type: 'endOfTrack' };
  const tempo: MidiEvent = { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: Math.round(60_000_000 / tempoBpm) };
  const all = [[tempo, end], ...[...tracks.values()].map((events) => [...events, end])];
  return Uint8Array.from(writeMidi({ header: { format: 1, numTracks: all.length, ticksPerBeat: TICKS_PER_BEAT }, tracks: all }));
}

function toEvent(bytes: Uint8Array): MidiEvent | null {
  const message = decode(bytes);
  if (!message) return null;
  const deltaTime = 0;
  switch (message.kind) {
    case 'noteOn':
      return { deltaTime, type: 'noteOn', channel: message.channel - 1, noteNumber: message.note, velocity: message.velocity };
    case 'noteOff':
      return { deltaTime, type: 'noteOff', channel: message.channel - 1, noteNumber: message.note, velocity: message.velocity };
    case 'polyPressure':
      return { deltaTime, type: 'noteAftertouch', channel: message.channel - 1, noteNumber: message.note, amount: message.pressure };
    case 'controlChange':
      return { deltaTime, type: 'controller', channel: message.channel - 1, controllerType: message.controller, value: message.value };
    case 'programChange':
      return { deltaTime, type: 'programChange', channel: message.channel - 1, programNumber: message.program };
    case 'channelPressure':
      return { deltaTime, type: 'channelAftertouch', channel: message.channel - 1, amount: message.pressure };
    case 'pitchBend':
      return { deltaTime, type: 'pitchBend', channel: message.channel - 1, value: message.bend - 8192 };
    case 'sysEx':
      return { deltaTime, type: 'sysEx', data: [...message.data, 0xf7] as never };
    default:
      return null;
  }
}
