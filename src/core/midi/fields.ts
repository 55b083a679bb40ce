import { BEND_CENTRE, type MidiMessage } from './message';

/** A number of a message as people set it: counted from `from` where they count otherwise than the wire. */
export interface MessageField {
  field: string;
  name: string;
  /** In the numbers of the message. */
  least: number;
  most: number;
  /** Added for people: 1 where they count from 1, less than 0 where their zero is a middle. */
  from: number;
}

type Kind = MidiMessage['kind'];

interface ChoosableKind<K extends Kind> {
  name: string;
  fresh: Extract<MidiMessage, { kind: K }>;
  fields: readonly MessageField[];
}

const number = (field: string, name: string, most = 127, from = 0): MessageField => ({ field, name, least: 0, most, from });
const channel: MessageField = { field: 'channel', name: 'channel', least: 1, most: 16, from: 0 };
const note = number('note', 'note');
const plain = <K extends 'clock' | 'start' | 'continue' | 'stop' | 'tuneRequest' | 'activeSensing' | 'reset'>(kind: K, name: string): ChoosableKind<K> => ({ name, fresh: { kind } as Extract<MidiMessage, { kind: K }>, fields: [] });

/** Every message by what it is called, with what must be said of it: those that are chosen most come first. */
export const CHOOSABLE: { [K in Kind]: ChoosableKind<K> } = {
  programChange: { name: 'Program change', fresh: { kind: 'programChange', channel: 1, program: 0 }, fields: [channel, number('program', 'program', 127, 1)] },
  controlChange: { name: 'Controller', fresh: { kind: 'controlChange', channel: 1, controller: 7, value: 100 }, fields: [channel, number('controller', 'controller'), number('value', 'value')] },
  noteOn: { name: 'Note on', fresh: { kind: 'noteOn', channel: 1, note: 60, velocity: 100 }, fields: [channel, note, number('velocity', 'velocity')] },
  noteOff: { name: 'Note off', fresh: { kind: 'noteOff', channel: 1, note: 60, velocity: 64 }, fields: [channel, note, number('velocity', 'velocity')] },
  pitchBend: { name: 'Pitch bend', fresh: { kind: 'pitchBend', channel: 1, bend: BEND_CENTRE }, fields: [channel, number('bend', 'bend', 16383, -BEND_CENTRE)] },
  channelPressure: { name: 'Pressure', fresh: { kind: 'channelPressure', channel: 1, pressure: 0 }, fields: [channel, number('pressure', 'pressure')] },
  polyPressure: { name: 'Pressure of a note', fresh: { kind: 'polyPressure', channel: 1, note: 60, pressure: 0 }, fields: [channel, note, number('pressure', 'pressure')] },
  start: plain('start', 'Start'),
  stop: plain('stop', 'Stop'),
  continue: plain('continue', 'Continue'),
  songPosition: { name: 'Song position', fresh: { kind: 'songPosition', sixteenths: 0 }, fields: [number('sixteenths', 'sixteenths', 16383)] },
  songSelect: { name: 'Song', fresh: { kind: 'songSelect', song: 0 }, fields: [number('song', 'song', 127, 1)] },
  sysEx: { name: 'SysEx', fresh: { kind: 'sysEx', data: Uint8Array.of(0x7d) }, fields: [] },
  tuneRequest: plain('tuneRequest', 'Tune request'),
  clock: plain('clock', 'Clock'),
  timeCode: { name: 'Time code', fresh: { kind: 'timeCode', data: 0 }, fields: [number('data', 'data')] },
  activeSensing: plain('activeSensing', 'Active sensing'),
  reset: plain('reset', 'System reset'),
};

export const CHOOSABLE_KINDS = Object.keys(CHOOSABLE) as Kind[];

/** A number of a message as people count it, and the message with another. */
export const shownOf = (message: MidiMessage, { field, from }: MessageField): number => (message as unknown as Record<string, number>)[field]! + from;
export const withShown = (message: MidiMessage, { field, from }: MessageField, shown: number): MidiMessage => ({ ...message, [field]: shown - from }) as MidiMessage;

/** A program of a bank: the two halves of the bank's number, then the program (MIDI 1.0, bank select). */
export function bankAndProgram(channelNumber: number, bank: number, program: number): MidiMessage[] {
  return [
    { kind: 'controlChange', channel: channelNumber, controller: 0, value: bank >> 7 },
    { kind: 'controlChange', channel: channelNumber, controller: 32, value: bank & 0x7f },
    { kind: 'programChange', channel: channelNumber, program },
  ];
}
