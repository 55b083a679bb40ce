import { noteName } from '../midi/describe';
import type { MachineCommand, MessageSpec, Smoothing } from '../rig/document';
import { rangeOut } from '../shaping/rangeOut';

/** Commands of machine control, as people say them. */
export const MACHINE_WORDS: Readonly<Record<MachineCommand, string>> = {
  stop: 'stop',
  play: 'play',
  deferredPlay: 'play when ready',
  fastForward: 'fast forward',
  rewind: 'rewind',
  recordStrobe: 'record',
  recordExit: 'end of recording',
  pause: 'pause',
};

/** The address of a message in words, as `channel 3 · CC 21`. */
export function addressInWords(message: MessageSpec): string {
  const channel = 'channel' in message ? `channel ${message.channel} · ` : '';
  switch (message.kind) {
    case 'controlChange':
      return `${channel}CC ${message.controller}`;
    case 'controlChange14':
      return `${channel}CC ${message.controller} fine`;
    case 'parameter':
      return `${channel}${message.registered ? 'RPN' : 'NRPN'} ${message.parameter}`;
    case 'pitchBend':
      return `${channel}bend`;
    case 'channelPressure':
      return `${channel}pressure`;
    case 'polyPressure':
      return `${channel}pressure ${typeof message.note === 'number' ? noteName(message.note) : 'of its note'}`;
    case 'note':
      return `${channel}note ${noteName(message.note)}`;
    case 'programChange':
      return `${channel}program`;
    case 'relative':
      return `${channel}CC ${message.controller} relative`;
    case 'transport':
      return message.action;
    case 'machine':
      return `machine control · ${MACHINE_WORDS[message.command]}`;
    case 'sysEx':
      return 'SysEx';
    case 'osc':
      return message.address;
    default:
      return message satisfies never;
  }
}

/** What leaves at a level in [0, 1], in the message's own unit; on and off are the velocity (or 1) and 0. */
export function leaving(message: MessageSpec, level: number): number {
  switch (message.kind) {
    case 'note':
      return level > 0 ? message.velocity : 0;
    case 'transport':
    case 'machine':
      return level > 0 ? 1 : 0;
    case 'relative':
      return Math.round(level * message.steps);
    case 'osc':
      return Number(rangeOut(level, message.range[0], message.range[1]).toPrecision(4));
    default:
      return Math.round(rangeOut(level, message.range[0], message.range[1]));
  }
}

/** How much of what the message can hold leaves at a level, for a meter or a picture. */
export function fullness(message: MessageSpec, level: number): number {
  switch (message.kind) {
    case 'note':
      return level > 0 ? message.velocity / 127 : 0;
    case 'transport':
    case 'machine':
    case 'relative':
    case 'osc':
    case 'sysEx':
      return level;
    case 'programChange':
      return (rangeOut(level, message.range[0], message.range[1]) - 1) / 127;
    case 'pitchBend':
      return message.unit === 'semitones' ? level : rangeOut(level, message.range[0], message.range[1]) / 16383;
    case 'controlChange14':
      return rangeOut(level, message.range[0], message.range[1]) / 16383;
    case 'parameter':
      return rangeOut(level, message.range[0], message.range[1]) / (message.bits === 14 ? 16383 : 127);
    default:
      return rangeOut(level, message.range[0], message.range[1]) / 127;
  }
}

export function smoothingInWords(smoothing: Smoothing | undefined): string {
  switch (smoothing?.kind) {
    case undefined:
      return 'direct';
    case 'onePole':
      return `smooth ${smoothing.timeConstantMs} ms`;
    case 'attackRelease':
      return `up ${smoothing.attackMs}, down ${smoothing.releaseMs} ms`;
    case 'oneEuro':
      return `adaptive ${smoothing.minCutoffHz} Hz`;
    case 'slew':
      return `at most ${smoothing.perS}/s`;
    default:
      return smoothing satisfies never;
  }
}
