import { choice, list, object, optional, sevenBit, whole, yesOrNo } from '../../messages/shapes';
import { device, inPlace, type FeedIdentity, type InputBase, type InputKind } from './kind';

export const MIDI_THRU_KINDS = ['notes', 'controllers', 'programs', 'pressure', 'bend', 'clock'] as const;
export type MidiThruKind = (typeof MIDI_THRU_KINDS)[number];

/** What of a MIDI input goes straight on to an output. */
export interface MidiThru {
  output: string;
  channels: number[];
  kinds: MidiThruKind[];
  /** Semitones that notes are moved by. */
  transpose?: number;
  /** The channel that all leaves on; absent: each on its own. */
  channel?: number;
  /** The keyboard is split: notes below this one go elsewhere, and pedals, bends and controllers to both. */
  split?: ThruRoute & { below: number };
}

/** Where it goes, and as what. */
export type ThruRoute = Pick<MidiThru, 'output' | 'transpose' | 'channel'>;

export interface MidiInput extends InputBase {
  kind: 'midi';
  /** Absent: it waits for the next MIDI device that the rig does not know. */
  device?: FeedIdentity;
  thru?: MidiThru;
  /** Its clock sets the tempo while it runs. */
  followsClock?: boolean;
}

const channel = whole(1, 16);
const route = { output: { is: 'id', of: 'output' }, transpose: optional(whole(-127, 127)), channel: optional(channel) } as const;

export const midi: InputKind<MidiInput> = {
  fields: {
    device: optional(device),
    thru: optional(
      object({ ...route, channels: list(channel, 0, 16, true), kinds: list(choice(...MIDI_THRU_KINDS), 0, MIDI_THRU_KINDS.length, true), split: optional(object({ ...route, below: sevenBit })) }),
    ),
    followsClock: optional(yesOrNo),
  },
  words: ({ device: from }) => (from ? `MIDI, ${from.report}${inPlace(from.slot)}` : 'MIDI, the next that is plugged in'),
  waits: true,
  found: (base, from) => ({ ...base, kind: 'midi', device: from }),
  canBeAway: true,
  streams: [{ source: 'all', name: 'notes' }],
};
