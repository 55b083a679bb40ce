import { STATUS } from '../midi/message';

export const FILTER_KINDS = ['notes', 'controllers', 'programs', 'pressure', 'bend', 'sysEx', 'clock'] as const;
export type FilterKind = (typeof FILTER_KINDS)[number];

/** What leaves by an output of what is sent there; absent: everything. */
export interface OutputFilter {
  /** The channels that pass, 1 to 16. */
  channels?: number[];
  /** Kinds of messages that do not. */
  without?: FilterKind[];
  withoutControllers?: number[];
}

/**
 * Whether messages that belong together (whole ones, all of one kind and channel) pass a filter. Clock and transport have no
 * channel; the ends of notes are not asked about, for what began must end.
 */
export function passesFilter({ channels, without = [], withoutControllers = [] }: OutputFilter, bytes: Uint8Array): boolean {
  const kind = filterKind(bytes[0]!);
  if (kind !== null && without.includes(kind)) return false;
  if (bytes[0]! >= 0xf0) return true;
  if (channels && !channels.includes((bytes[0]! & 0x0f) + 1)) return false;
  return kind !== 'controllers' || !withoutControllers.includes(bytes[1]!);
}

/** The kind that a filter knows a message by; null for what no filter holds back. */
function filterKind(status: number): FilterKind | null {
  if (status === STATUS.sysEx) return 'sysEx';
  if (status >= 0xf0) return status === STATUS.songPosition || (status >= STATUS.clock && status <= STATUS.stop) ? 'clock' : null;
  switch (status & 0xf0) {
    case STATUS.noteOn:
    case STATUS.noteOff:
      return 'notes';
    case STATUS.controlChange:
      return 'controllers';
    case STATUS.programChange:
      return 'programs';
    case STATUS.pitchBend:
      return 'bend';
    default:
      return 'pressure';
  }
}

/** Bank select, data entry, its steps, and the numbers of parameters, registered or not (MIDI 1.0, table III). */
const CONFIGURING: readonly number[] = [0, 6, 32, 38, 96, 97, 98, 99, 100, 101];

/** Key-Based Instrument Control (MIDI 1.0 CA-023, from memory of it): F0 7F device 0A 01. It is played, as controllers of a channel are. */
const isKeyControl = (bytes: Uint8Array): boolean => bytes[1] === 0x7f && bytes[3] === 0x0a && bytes[4] === 0x01;

/** Whether messages that belong together set a receiver up rather than play it. */
export function isConfiguration(bytes: Uint8Array): boolean {
  const status = bytes[0]!;
  if (status === STATUS.sysEx) return !isKeyControl(bytes);
  if (status >= 0xf0) return false;
  const kind = status & 0xf0;
  return kind === STATUS.programChange || (kind === STATUS.controlChange && CONFIGURING.includes(bytes[1]!));
}
