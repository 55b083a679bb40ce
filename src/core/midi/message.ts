/**
 * MIDI messages as data. Channels are 1-16 as people count them; everything else is in the numbers of the wire:
 * 7-bit values 0-127, bend 0-16383 with its centre at 8192.
 */
export type MidiMessage =
  | { kind: 'noteOff'; channel: number; note: number; velocity: number }
  | { kind: 'noteOn'; channel: number; note: number; velocity: number }
  | { kind: 'polyPressure'; channel: number; note: number; pressure: number }
  | { kind: 'controlChange'; channel: number; controller: number; value: number }
  | { kind: 'programChange'; channel: number; program: number }
  | { kind: 'channelPressure'; channel: number; pressure: number }
  | { kind: 'pitchBend'; channel: number; bend: number }
  | { kind: 'sysEx'; data: Uint8Array }
  | { kind: 'timeCode'; data: number }
  | { kind: 'songPosition'; sixteenths: number }
  | { kind: 'songSelect'; song: number }
  | { kind: 'tuneRequest' }
  | { kind: 'clock' }
  | { kind: 'start' }
  | { kind: 'continue' }
  | { kind: 'stop' }
  | { kind: 'activeSensing' }
  | { kind: 'reset' };

/** Status bytes of MIDI 1.0 (Detailed Specification 4.2, tables I to IV); channel ones with channel 1 in the low half. */
export const STATUS = {
  noteOff: 0x80,
  noteOn: 0x90,
  polyPressure: 0xa0,
  controlChange: 0xb0,
  programChange: 0xc0,
  channelPressure: 0xd0,
  pitchBend: 0xe0,
  sysEx: 0xf0,
  timeCode: 0xf1,
  songPosition: 0xf2,
  songSelect: 0xf3,
  tuneRequest: 0xf6,
  endOfSysEx: 0xf7,
  clock: 0xf8,
  start: 0xfa,
  continue: 0xfb,
  stop: 0xfc,
  activeSensing: 0xfe,
  reset: 0xff,
} as const;

export const BEND_CENTRE = 8192;
