import { rangeOut } from '../shaping/rangeOut';
import type { MessageKind, Range } from './kind';
import { finite, list, pair, whole, type Shape } from './shapes';

/** `value` stands for the value of the message; other arguments are sent as they are. */
export type OscArgument = { type: 'f' | 'i'; value: number | 'value' } | { type: 's'; value: string };

/** An argument as it leaves. */
export interface OscSent {
  type: 'i' | 'f' | 's';
  value: number | string;
}

/** An OSC message (OSC 1.0). */
export interface Osc {
  kind: 'osc';
  address: string;
  arguments: OscArgument[];
  range: Range;
}

/** The arguments of a message with its value in the places for it. */
export function fillArguments(args: readonly OscArgument[], value: number): OscSent[] {
  return args.map(({ type, value: fixed }) => {
    const filled = fixed === 'value' && type !== 's' ? value : fixed;
    return { type, value: type === 'i' && typeof filled === 'number' ? Math.round(filled) : filled };
  });
}

/** Whether the value of a message leaves as whole numbers alone. */
export function saysWholeNumbers({ arguments: all }: Pick<Osc, 'arguments'>): boolean {
  const values = all.filter(({ type, value }) => type !== 's' && value === 'value');
  return values.length > 0 && values.every(({ type }) => type === 'i');
}

/** A part of an address stands between slashes; the whole begins with one (OSC 1.0, address patterns). */
export const OSC_ADDRESS = { expression: /^\/[^\s#*,?[\]{}]+$/, words: 'an OSC address: a slash, then no spaces and none of # * , ? [ ] { }' };
/** What stands behind another address and a slash. */
export const OSC_PART = { expression: /^[^\s#*,?[\]{}/][^\s#*,?[\]{}]*$/, words: 'a part of an OSC address: no spaces and none of # * , ? [ ] { }' };
export const OSC_ADDRESS_MOST = 200;

const valueOr = (other: Shape): Shape => ({ is: 'wordOr', of: ['value'], other });

export const osc: MessageKind<Osc> = {
  name: 'OSC message',
  body: 'osc',
  fields: {
    address: { is: 'text', most: OSC_ADDRESS_MOST, pattern: OSC_ADDRESS },
    arguments: list(
      {
        is: 'tagged',
        tag: 'type',
        cases: { f: { value: valueOr(finite) }, i: { value: valueOr(whole(-2147483648, 2147483647)) }, s: { value: { is: 'text', most: 200 } } },
      },
      0,
      16,
    ),
    range: pair(finite),
  },
  presses: 'never',
  hasMiddle: false,
  holdsValue: false,
  address: ({ address }) => `osc ${address}`,
  words: ({ address }) => address,
  holds: () => [{ kind: 'other', number: null }],
  /** It has no ends: what it is set to by itself, or from 0 to 1. */
  limits: ({ range }) => [Math.min(0, ...range), Math.max(1, ...range)],
  wireLimits: () => [-Infinity, Infinity],
  fresh: () => ({ kind: 'osc', address: '/out', arguments: [{ type: 'f', value: 'value' }], range: [0, 1] }),
  *others(message) {
    for (let n = 2; n < 1000; n++) yield { ...message, address: `${message.address.replace(/\d+$/, '')}${n}` };
  },
  leaving: (message, level) => (saysWholeNumbers(message) ? Math.round(rangeOut(level, ...message.range)) : Number(rangeOut(level, ...message.range).toPrecision(4))),
  // No bytes of MIDI: the hub codes it.
  write: () => undefined,
};
