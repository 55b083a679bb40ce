import type { MessageSpec } from '../rig/document';

/** Whether a message happens on a press rather than following a level. */
export function isGateMessage(message: MessageSpec, signalKind: 'continuous' | 'gate'): boolean {
  switch (message.kind) {
    case 'note':
    case 'transport':
    case 'machine':
      return true;
    case 'programChange':
      return signalKind === 'gate';
    default:
      return false;
  }
}

/** What tells one address from another: two mappings with the same key send to the same place. */
export function addressKey(output: string, message: MessageSpec): string {
  switch (message.kind) {
    case 'controlChange':
    case 'relative':
      return `${output} ${message.channel} cc ${message.controller}`;
    case 'controlChange14':
      return `${output} ${message.channel} cc14 ${message.controller}`;
    case 'parameter':
      return `${output} ${message.channel} ${message.registered ? 'rpn' : 'nrpn'} ${message.parameter}`;
    case 'pitchBend':
      return `${output} ${message.channel} bend`;
    case 'channelPressure':
      return `${output} ${message.channel} pressure`;
    case 'polyPressure':
      return `${output} ${message.channel} poly ${typeof message.note === 'number' ? message.note : `of ${message.note.of}`}`;
    case 'note':
      return `${output} ${message.channel} note ${message.note}`;
    case 'programChange':
      return `${output} ${message.channel} program`;
    case 'transport':
      return `${output} transport ${message.action}`;
    case 'machine':
      return `${output} machine ${message.device} ${message.command}`;
    case 'sysEx':
      return `${output} sysex ${message.bytes.join(' ')}`;
    case 'osc':
      return `${output} osc ${message.address}`;
    default:
      return message satisfies never;
  }
}

/** The channel of a message, or 0 for those that have none. */
export function channelOf(message: MessageSpec): number {
  return 'channel' in message ? message.channel : 0;
}
