import { isPlain } from '../midi/controllers';
import { STATUS } from '../midi/message';
import type { RigMapping, RigSignal } from '../rig/document';
import { OUTSIDE } from '../shaping/rangeIn';
import { isGateMessage, wireLimits, wireRange, type MessageSpec } from '../messages';
import { saysWholeNumbers } from '../messages/osc';
import { curveOf, deadZoneOf, fadeOf, smoothingOf } from './planShaping';

/** How a press is understood, as small numbers. */
export const PRESS = { momentary: 0, toggle: 1, radio: 2 } as const;

export const NONE = -1;

/** One mapping, ready to run: references are indices of the plan, absent steps are filled in, all fields always there. */
export interface PlannedMapping {
  rig: RigMapping;
  signal: number;
  /** The other axis of a round dead zone, NONE where there is none; the nominal range of this axis and of the other. */
  pair: number;
  nominalLo: number;
  nominalHi: number;
  pairLo: number;
  pairHi: number;
  output: number;
  address: number;
  inLo: number;
  inHi: number;
  outside: number;
  /** The period of an angle in its unit, and in levels; 0 for other signals. */
  turn: number;
  period: number;
  dead: number;
  deadA: number;
  deadB: number;
  median: number;
  jumpPerS: number;
  jumpForMs: number;
  smooth: number;
  smoothA: number;
  smoothB: number;
  smoothC: number;
  curve: number;
  curveA: number;
  curveAt: number;
  curveCount: number;
  steps: number;
  hysteresis: number;
  hasWindow: boolean;
  windowLo: number;
  windowHi: number;
  fade: number;
  /**
   * Where the signal rests near the middle: the level of its rest, NaN elsewhere. That level is sent as exactly `outMid`, and
   * those beside it are laid apart onto the two halves (see `rest`).
   */
  rests: boolean;
  restLevel: number;
  /** What it sends at rest, in the numbers of the wire; NaN where its signal has no rest. */
  atRest: number;
  /** Ends of the range out in the numbers of the wire, and its middle. */
  outLo: number;
  outHi: number;
  outMid: number;
  /** The smallest and largest number that the message holds. */
  least: number;
  most: number;
  /** Status byte, number and bit of the channel of a plain controller; NONE for every other message. */
  status: number;
  controller: number;
  channelBit: number;
  isOsc: boolean;
  /** Of OSC: whether its value leaves as a whole number alone. */
  isWhole: boolean;
  /** Whether the level is turned into on and off at all, and how. */
  gated: boolean;
  fromGate: boolean;
  relative: boolean;
  /** Of relative steps: where the level of what is on or off stands before the first press; NaN where it is neither. */
  levelUnpressed: number;
  /** Whether what it says goes on for a while after a sample: smoothing, de-glitching. */
  settles: boolean;
  /** Whether nothing but its samples moves it while they come. */
  bySamplesAlone: boolean;
  gateMessage: boolean;
  gateOn: number;
  gateOff: number;
  minOnMs: number;
  minGapMs: number;
  press: number;
  radio: string;
  /** For poly pressure that follows a note, and for the fine modifier of relative steps. */
  follows: number;
  fine: number;
  /** A signal that gives the rate of note repeat. */
  repeatRate: number;
}

export interface PlanContext {
  find: (signal: string) => number;
  /** The range of a signal, by its id. */
  rangeOf: (signal: string) => readonly [number, number];
  mappingIndex: (mapping: string) => number;
  output: number;
  address: number;
  /** The coefficients of curves go to the end of this list; it begins at this place of the whole. */
  curves: number[];
  curvesFrom?: number;
  bendRangeSemitones: number;
}

export function planMapping(rig: RigMapping, signal: Omit<RigSignal, 'input'>, context: PlanContext): PlannedMapping {
  const { shaping, message, gate } = rig;
  const { lo: inLo, hi: inHi } = shaping.rangeIn ?? { lo: signal.range[0], hi: signal.range[1] };
  const pair = shaping.deadZone?.kind === 'centre' ? signal.pair : undefined;
  const [pairLo, pairHi] = pair === undefined ? [0, 1] : context.rangeOf(pair);
  const gateMessage = isGateMessage(message, signal.kind);
  const fromGate = signal.kind === 'gate';
  const [outLo, outHi] = wireRange(message, context.bendRangeSemitones);
  const [least, most] = wireLimits(message);
  const press = gate?.press ?? 'momentary';
  // On is above the threshold: with one of 0 everything but rest is on.
  const on = Math.max(gate?.on ?? (fromGate ? 0 : 0.5), Number.MIN_VALUE);
  const gated = gateMessage || gate !== undefined || rig.motion !== undefined;
  const relative = message.kind === 'relative';
  const follows = message.kind === 'polyPressure' && typeof message.note === 'object' ? context.mappingIndex(message.note.of) : NONE;
  return {
    rig,
    signal: context.find(rig.signal),
    pair: pair === undefined ? NONE : context.find(pair),
    nominalLo: signal.range[0],
    nominalHi: signal.range[1],
    pairLo,
    pairHi,
    output: context.output,
    address: context.address,
    inLo,
    inHi,
    outside: OUTSIDE[shaping.rangeIn?.outside ?? 'clamp'],
    turn: signal.period ?? 0,
    period: signal.period === undefined || inHi === inLo ? 0 : signal.period / Math.abs(inHi - inLo),
    ...deadZoneOf(shaping, signal.pair !== undefined),
    median: shaping.deglitch?.median ?? 0,
    jumpPerS: shaping.deglitch?.jump?.perS ?? 0,
    jumpForMs: shaping.deglitch?.jump?.forMs ?? 0,
    ...smoothingOf(shaping),
    ...curveOf(shaping, context.curves, context.curvesFrom ?? 0),
    steps: shaping.steps?.count ?? 0,
    hysteresis: shaping.steps?.hysteresis ?? 0,
    hasWindow: shaping.window !== undefined,
    windowLo: shaping.window?.lo ?? 0,
    windowHi: shaping.window?.hi ?? 1,
    fade: fadeOf(shaping),
    rests: false,
    restLevel: NaN,
    atRest: NaN,
    outLo,
    outHi,
    outMid: Math.round((outLo + outHi) / 2),
    least,
    most,
    status: message.kind === 'controlChange' && isPlain(message.controller) ? STATUS.controlChange | (message.channel - 1) : NONE,
    controller: message.kind === 'controlChange' ? message.controller : NONE,
    channelBit: 'channel' in message ? 1 << (message.channel - 1) : 0,
    isOsc: message.kind === 'osc',
    isWhole: message.kind === 'osc' && saysWholeNumbers(message),
    gated,
    fromGate,
    relative,
    levelUnpressed: NaN,
    settles: shaping.smoothing !== undefined || (shaping.deglitch?.median ?? 0) > 0 || (shaping.deglitch?.jump?.perS ?? 0) > 0,
    bySamplesAlone: !gated && !relative && follows === NONE,
    gateMessage,
    gateOn: on,
    gateOff: Math.min(on, gate?.off ?? (fromGate ? on : Math.min(on, 0.4))),
    minOnMs: gate?.minOnMs ?? 0,
    minGapMs: gate?.minGapMs ?? 0,
    press: press === 'momentary' ? PRESS.momentary : press === 'toggle' ? PRESS.toggle : PRESS.radio,
    radio: typeof press === 'object' ? press.radio : '',
    follows,
    fine: message.kind === 'relative' && message.fine ? context.find(message.fine.signal) : NONE,
    repeatRate: repeatRateOf(message, context.find),
  };
}

function repeatRateOf(message: MessageSpec, find: (id: string) => number): number {
  if (message.kind !== 'note' || !message.repeat || !('rateHz' in message.repeat)) return NONE;
  return typeof message.repeat.rateHz === 'number' ? NONE : find(message.repeat.rateHz.signal);
}
