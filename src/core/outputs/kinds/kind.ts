import { number, object, choice, list, optional, whole, yesOrNo, type Fields } from '../../messages/shapes';
import { FILTER_KINDS, type OutputFilter } from '../filter';

/** What every way out of the program has. */
export interface OutputBase {
  id: string;
  name: string;
  receiver: string;
  /** Of what waits for a slow port only the newest value of an address does; absent: as fast as it comes. */
  bytesPerS?: number;
  sendsClock?: boolean;
  /** Nothing leaves; what would have is remembered, as for one that is away. */
  muted?: boolean;
  /** Everything leaves so much later. */
  delayMs?: number;
  /** What leaves of what is sent there. */
  filter?: OutputFilter;
  /** SysEx, parameters, banks and programs leave by another output instead, or not at all. */
  configuration?: 'blocked' | { to: string };
  /** The input by which its receiver says at what value it stands: motor faders, a workstation. */
  comesBack?: string;
}

/** All that is known of a kind of output: one of these is one file, and a row in `index`. */
export interface OutputKind<O extends OutputBase> {
  /** The fields of its document besides those that all have. */
  fields: Fields;
  takes: 'midi' | 'osc';
  /** Where it leads, in words. */
  words(output: O): string;
}

/** Bytes a second that DIN carries: 31,250 baud with 10 bits a byte (MIDI 1.0). */
export const DIN_BYTES_PER_S = 3125;
export const DELAY_MOST_MS = 2000;

/** The fields that all outputs have besides id and name. */
export const commonFields: Fields = {
  receiver: { is: 'id', of: 'receiver' },
  bytesPerS: optional(number(100, 1e9)),
  sendsClock: optional(yesOrNo),
  muted: optional(yesOrNo),
  delayMs: optional(number(0, DELAY_MOST_MS)),
  filter: optional(
    object({
      channels: optional(list(whole(1, 16), 0, 16, true)),
      without: optional(list(choice(...FILTER_KINDS), 0, FILTER_KINDS.length, true)),
      withoutControllers: optional(list(whole(0, 127), 0, 128, true)),
    }),
  ),
  configuration: optional({ is: 'objectOr', object: object({ to: { is: 'id', of: 'output' } }), other: choice('blocked') }),
  comesBack: optional({ is: 'id', of: 'input' }),
};
