import Joi from 'joi';
import { MACHINE_COMMANDS, RELATIVE_ENCODINGS, TRANSPORT_ACTIONS, type MessageSpec, type OscArgument } from '../../core/rig/document';
import { amountOf, channel, finite, fourteenBit, id, milliseconds, pairOf, sevenBit, tagged } from './pieces';

const sevenBitRange = pairOf(sevenBit).required();
const fourteenBitRange = pairOf(fourteenBit).required();
// 120-127 are channel mode messages and never plain controllers (engine.md, ledger rules).
const controller = Joi.number().integer().min(0).max(119).required();

const semitones = Joi.object({
  kind: Joi.string().required(),
  channel: channel.required(),
  unit: Joi.valid('semitones').required(),
  range: pairOf(Joi.number().min(-96).max(96)).required(),
});

const plain = tagged<MessageSpec>('kind', {
  controlChange: { channel: channel.required(), controller, range: sevenBitRange },
  controlChange14: { channel: channel.required(), controller: Joi.number().integer().min(0).max(31).required(), range: fourteenBitRange },
  parameter: {
    channel: channel.required(),
    registered: Joi.boolean().required(),
    parameter: fourteenBit.required(),
    bits: Joi.valid(7, 14).required(),
    range: Joi.when('bits', { is: 14, then: fourteenBitRange, otherwise: sevenBitRange }),
    nullAfter: Joi.boolean(),
  },
  pitchBend: { channel: channel.required(), unit: Joi.valid('steps'), range: fourteenBitRange },
  channelPressure: { channel: channel.required(), range: sevenBitRange },
  polyPressure: {
    channel: channel.required(),
    note: Joi.alternatives().conditional(Joi.object(), { then: Joi.object({ of: id.required() }), otherwise: sevenBit }).required(),
    range: sevenBitRange,
  },
  note: {
    channel: channel.required(),
    note: sevenBit.required(),
    velocity: sevenBit.min(1).required(),
    velocityFrom: Joi.alternatives().conditional(Joi.object(), {
      then: Joi.object({ fullSpeedPerS: Joi.number().min(0.001).max(10_000).required() }),
      otherwise: Joi.valid('fixed', 'strength'),
    }),
    length: Joi.alternatives().conditional(Joi.object(), {
      then: Joi.object({ ms: milliseconds.min(1).required() }),
      otherwise: Joi.valid('held', 'untilPressedAgain'),
    }),
    releaseVelocity: sevenBit,
    chord: Joi.array().min(1).max(16).items(Joi.number().integer().min(-64).max(64)).unique(),
    transpose: Joi.number().integer().min(-127).max(127),
    repeat: Joi.alternatives().conditional(Joi.object({ beats: Joi.any().required() }).unknown(), {
      then: Joi.object({ beats: Joi.number().min(1 / 64).max(64).required() }),
      otherwise: Joi.object({ rateHz: amountOf(Joi.number().min(0.01).max(100)).required() }),
    }),
  },
  programChange: {
    channel: channel.required(),
    range: pairOf(Joi.number().integer().min(1).max(128)).required(),
    bank: Joi.object({ msb: sevenBit.required(), lsb: sevenBit.required() }),
  },
  relative: {
    channel: channel.required(),
    controller,
    encoding: Joi.valid(...RELATIVE_ENCODINGS).required(),
    steps: Joi.number().min(1).max(16384).required(),
    most: Joi.number().integer().min(1).max(63).required(),
    fine: Joi.object({ signal: id.required(), divideBy: Joi.number().min(1).max(1000).required() }),
  },
  transport: { action: Joi.valid(...TRANSPORT_ACTIONS).required() },
  machine: { device: sevenBit.required(), command: Joi.valid(...MACHINE_COMMANDS).required() },
  sysEx: {
    bytes: Joi.array()
      .min(1)
      .max(256)
      .items(Joi.alternatives().conditional(Joi.number(), { then: sevenBit, otherwise: Joi.valid('value', 'msb', 'lsb') }))
      .required(),
    range: fourteenBitRange,
  },
  osc: {
    address: Joi.string()
      .pattern(/^\/[^\s#*,?[\]{}]+$/, 'an OSC address: a slash, then no spaces and none of # * , ? [ ] { }')
      .max(200)
      .required(),
    arguments: Joi.array()
      .max(16)
      .items(
        tagged<OscArgument>('type', {
          f: { value: amountOfValue(finite) },
          i: { value: amountOfValue(Joi.number().integer().min(-2147483648).max(2147483647)) },
          s: { value: Joi.string().allow('').max(200).required() },
        }),
      )
      .required(),
    range: pairOf(finite).required(),
  },
});

/** The value of the message, or a fixed one. */
function amountOfValue(fixed: Joi.Schema): Joi.Schema {
  return Joi.alternatives().conditional(Joi.string(), { then: Joi.valid('value'), otherwise: fixed }).required();
}

/** What a level becomes. */
export const message = Joi.alternatives<MessageSpec>().conditional(Joi.object({ kind: Joi.valid('pitchBend').required(), unit: Joi.valid('semitones').required() }).unknown(), {
  then: semitones,
  otherwise: plain,
});
