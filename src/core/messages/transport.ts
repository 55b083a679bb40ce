import { STATUS } from '../midi/message';
import type { MessageKind } from './kind';
import { choice } from './shapes';

export const TRANSPORT_ACTIONS = ['start', 'stop', 'continue'] as const;
export type TransportAction = (typeof TRANSPORT_ACTIONS)[number];

/** Starts and stops what follows a clock (MIDI 1.0, System Real Time). */
export interface Transport {
  kind: 'transport';
  action: TransportAction;
}

export const transport: MessageKind<Transport> = {
  name: 'Start, stop, continue',
  body: 'midi',
  fields: { action: choice(...TRANSPORT_ACTIONS) },
  presses: 'always',
  hasMiddle: true,
  holdsValue: false,
  address: ({ action }) => `transport ${action}`,
  words: ({ action }) => action,
  holds: () => [{ kind: 'other', number: null }],
  wireRange: () => [0, 1],
  fresh: () => ({ kind: 'transport', action: 'start' }),
  others: () => [],
  leaving: (_, level) => Number(level > 0),
  fullness: (_, level) => level,
  write: ({ action }, _, pen) => pen.put(STATUS[action]),
};
