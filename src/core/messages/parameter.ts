import { SELECT } from '../midi/controllers';
import { STATUS } from '../midi/message';
import { NOTHING, type Held, type MessageKind, type Range } from './kind';
import { channel, choice, fourteenBit, optional, pair, sevenBit, yesOrNo } from './shapes';

/** A registered (RPN) or other (NRPN) parameter, of 7 or 14 bits (MIDI 1.0, Registered and Non-Registered Parameter Numbers). */
export interface Parameter {
  kind: 'parameter';
  channel: number;
  registered: boolean;
  parameter: number;
  bits: 7 | 14;
  range: Range;
  /** Whether nothing stays selected afterwards. */
  nullAfter?: boolean;
}

const REGISTERED = { msb: SELECT.rpnMsb, lsb: SELECT.rpnLsb };
const OTHER = { msb: SELECT.nrpnMsb, lsb: SELECT.nrpnLsb };
const DATA = { msb: SELECT.dataMsb, lsb: SELECT.dataLsb };
const NULL_PARAMETER = 16383;
/** RPN 6, the MPE configuration message. */
const MPE_CONFIGURATION = 6;

const most = ({ bits }: Parameter) => (bits === 14 ? 16383 : 127);

export const parameter: MessageKind<Parameter> = {
  name: 'Parameter (RPN, NRPN)',
  body: 'midi',
  fields: {
    channel,
    registered: yesOrNo,
    parameter: fourteenBit,
    bits: choice(7, 14),
    range: { is: 'by', field: 'bits', value: 14, then: pair(fourteenBit), otherwise: pair(sevenBit) },
    nullAfter: optional(yesOrNo),
  },
  presses: 'never',
  hasMiddle: true,
  holdsValue: true,
  address: (message) => `${message.channel} ${message.registered ? 'rpn' : 'nrpn'} ${message.parameter}`,
  words: (message) => `${message.registered ? 'RPN' : 'NRPN'} ${message.parameter}`,
  holds: (message) => [{ kind: 'parameter', number: message.parameter + (message.registered ? 16384 : 0) }, ...zone(message)],
  limits: (message) => [0, most(message)],
  wireLimits: (message) => [0, most(message)],
  fresh: ({ channel: on }) => ({ kind: 'parameter', channel: on, registered: false, parameter: 0, bits: 14, range: [0, 16383] }),
  *others(message) {
    for (let next = message.parameter + 1; next < 16384; next++) yield { ...message, parameter: next };
  },
  write(message, value, pen, output, before) {
    const status = STATUS.controlChange | (message.channel - 1);
    const select = message.registered ? REGISTERED : OTHER;
    const fresh = pen.mustSelect(output, message.channel - 1, message.registered, message.parameter);
    if (fresh) {
      pen.three(status, select.msb, message.parameter >> 7);
      pen.three(status, select.lsb, message.parameter & 0x7f);
    }
    if (message.bits === 7) pen.three(status, DATA.msb, value);
    else {
      if (fresh || before === NOTHING || before >> 7 !== value >> 7) pen.three(status, DATA.msb, value >> 7);
      pen.three(status, DATA.lsb, value & 0x7f);
    }
    if (!message.nullAfter) return;
    pen.three(status, select.msb, NULL_PARAMETER >> 7);
    pen.three(status, select.lsb, NULL_PARAMETER & 0x7f);
  },
};

/**
 * The channels that an MPE configuration message takes for its members: RPN 6 on channel 1 counts upwards, on channel 16
 * downwards (MPE specification 1.0, RP-053). The largest number that the mapping can send counts.
 */
function zone({ registered, parameter: number, channel: manager, range }: Parameter): Held[] {
  if (!registered || number !== MPE_CONFIGURATION || (manager !== 1 && manager !== 16)) return [];
  const members = Math.min(15, Math.max(...range));
  return Array.from({ length: members }, (_, i): Held => ({ kind: 'zone', number: null, channel: manager === 1 ? 2 + i : 15 - i }));
}
