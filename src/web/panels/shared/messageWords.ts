import type { MessageSpec } from '../../../core/rig/document';

export const KIND_NAMES: Readonly<Record<MessageSpec['kind'], string>> = {
  controlChange: 'Controller',
  controlChange14: 'Controller of 14 bits',
  parameter: 'Parameter (RPN, NRPN)',
  pitchBend: 'Pitch bend',
  channelPressure: 'Channel pressure',
  polyPressure: 'Pressure of a note',
  note: 'Note',
  programChange: 'Program change',
  relative: 'Relative controller',
  transport: 'Start, stop, continue',
  machine: 'Machine control',
  sysEx: 'SysEx',
  osc: 'OSC message',
};
