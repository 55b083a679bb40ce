import { decode } from './decode';
import type { MidiMessage } from './message';

/** By semitones above C. */
export const NOTE_NAMES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'] as const;

/** The name of a note number with its octave; 60 is C4. Pitches that no key has (a pitch field may reach below 0) have theirs, too. */
export function noteName(note: number): string {
  const octave = Math.floor(note / 12);
  return `${NOTE_NAMES[note - 12 * octave]}${octave - 1}`;
}

/** A message in words, as the monitor shows it: `channel 3 · CC 21 · 87`. */
export function describe(message: MidiMessage): string {
  switch (message.kind) {
    case 'noteOn':
      return `channel ${message.channel} · note ${noteName(message.note)} on · ${message.velocity}`;
    case 'noteOff':
      return `channel ${message.channel} · note ${noteName(message.note)} off · ${message.velocity}`;
    case 'polyPressure':
      return `channel ${message.channel} · pressure ${noteName(message.note)} · ${message.pressure}`;
    case 'controlChange':
      return `channel ${message.channel} · CC ${message.controller} · ${message.value}`;
    case 'programChange':
      return `channel ${message.channel} · program ${message.program + 1}`;
    case 'channelPressure':
      return `channel ${message.channel} · pressure · ${message.pressure}`;
    case 'pitchBend':
      return `channel ${message.channel} · bend · ${message.bend}`;
    case 'sysEx':
      return `SysEx · ${message.data.length} bytes`;
    case 'timeCode':
      return `time code · ${message.data}`;
    case 'songPosition':
      return `song position · ${message.sixteenths}`;
    case 'songSelect':
      return `song ${message.song + 1}`;
    case 'tuneRequest':
      return 'tune request';
    case 'activeSensing':
      return 'active sensing';
    case 'clock':
    case 'start':
    case 'continue':
    case 'stop':
    case 'reset':
      return message.kind;
    default:
      return message satisfies never;
  }
}

/** Bytes as people write them, `B2 15 57`. */
export function hexOf(bytes: Uint8Array): string {
  return Array.from(bytes, (byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' ');
}

/** The bytes of a message in words, or as bytes where they are no defined message. */
export function describeBytes(bytes: Uint8Array): string {
  // An OSC packet begins with its address.
  if (bytes[0] === 0x2f) return String.fromCharCode(...bytes.subarray(0, Math.max(0, bytes.indexOf(0))));
  const message = decode(bytes);
  return message ? describe(message) : `bytes ${hexOf(bytes)}`;
}
