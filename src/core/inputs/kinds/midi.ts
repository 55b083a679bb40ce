import { choice, list, object, optional, whole, yesOrNo } from '../../messages/shapes';
import { device, inPlace, type DeviceIdentity, type InputBase, type InputKind } from './kind';

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
}

export interface MidiInput extends InputBase {
  kind: 'midi';
  device: DeviceIdentity;
  thru?: MidiThru;
  /** Its clock sets the tempo while it runs. */
  followsClock?: boolean;
}

const channel = whole(1, 16);

export const midi: InputKind<MidiInput> = {
  fields: {
    device,
    thru: optional(
      object({ output: { is: 'id', of: 'output' }, channels: list(channel, 0, 16, true), kinds: list(choice(...MIDI_THRU_KINDS), 0, MIDI_THRU_KINDS.length, true), transpose: optional(whole(-127, 127)), channel: optional(channel) }),
    ),
    followsClock: optional(yesOrNo),
  },
  words: ({ device: { report, slot } }) => `MIDI, ${report}${inPlace(slot)}`,
  found: (base, from) => ({ ...base, kind: 'midi', device: from }),
  canBeAway: true,
};
