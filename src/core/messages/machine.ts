import { MACHINE_CODES, MACHINE_COMMANDS, type MachineCommand } from '../midi/machineControl';
import { STATUS } from '../midi/message';
import type { MessageKind } from './kind';
import { choice, sevenBit } from './shapes';

/** Commands of MIDI Machine Control 1.0 (RP-013), as people say them. */
export const MACHINE_WORDS: Record<MachineCommand, string> = {
  stop: 'stop',
  play: 'play',
  deferredPlay: 'play when ready',
  fastForward: 'fast forward',
  rewind: 'rewind',
  recordStrobe: 'record',
  recordExit: 'end of recording',
  pause: 'pause',
};

/** A command of machine control, to one device or (127) to all. */
export interface Machine {
  kind: 'machine';
  device: number;
  command: MachineCommand;
}

const ALL_DEVICES = 127;
const REAL_TIME = 0x7f;
const COMMAND = 0x06;

export const machine: MessageKind<Machine> = {
  name: 'Machine control',
  body: 'midi',
  fields: { device: sevenBit, command: choice(...MACHINE_COMMANDS) },
  presses: 'always',
  hasMiddle: true,
  holdsValue: false,
  address: ({ device, command }) => `machine ${device} ${command}`,
  words: ({ command }) => `machine control · ${MACHINE_WORDS[command]}`,
  holds: () => [{ kind: 'other', number: null }],
  wireRange: () => [0, 1],
  fresh: () => ({ kind: 'machine', device: ALL_DEVICES, command: 'play' }),
  others: () => [],
  leaving: (_, level) => Number(level > 0),
  fullness: (_, level) => level,
  write({ device, command }, _, pen) {
    for (const byte of [STATUS.sysEx, REAL_TIME, device, COMMAND, MACHINE_CODES[command], STATUS.endOfSysEx]) pen.put(byte);
  },
};
