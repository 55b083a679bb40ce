import { noteName } from '../midi/describe';
import type { MessageSpec, Smoothing } from '../rig/document';
import { rangeOut } from '../shaping/rangeOut';

/** The address of a message in words, as `channel 3 · CC 21`. */
export function addressInWords(message: MessageSpec): string {
  switch (message.kind) {
    case 'controlChange':
      return `channel ${message.channel} · CC ${message.controller}`;
    case 'note':
      return `channel ${message.channel} · note ${noteName(message.note)}`;
    default:
      return message satisfies never;
  }
}

/** What leaves at a level in [0, 1], in the message's own unit. */
export function leaving(message: MessageSpec, level: number): number {
  switch (message.kind) {
    case 'controlChange':
      return Math.round(rangeOut(level, message.range[0], message.range[1]));
    case 'note':
      return level >= 0.5 ? message.velocity : 0;
    default:
      return message satisfies never;
  }
}

export function smoothingInWords(smoothing: Smoothing | undefined): string {
  switch (smoothing?.kind) {
    case undefined:
      return 'direct';
    case 'onePole':
      return `smooth ${smoothing.timeConstantMs} ms`;
    case 'oneEuro':
      return `adaptive ${smoothing.minCutoffHz} Hz`;
    default:
      return smoothing satisfies never;
  }
}
