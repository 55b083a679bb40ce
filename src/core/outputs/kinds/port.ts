import { device, inPlace, type FeedIdentity } from '../../inputs/kinds/kind';
import type { OutputBase, OutputKind } from './kind';

/** A MIDI port of this computer. */
export interface PortOutput extends OutputBase {
  kind: 'port';
  device: FeedIdentity;
}

export const port: OutputKind<PortOutput> = {
  fields: { device },
  takes: 'midi',
  words: ({ device: { report, slot } }) => `MIDI port ${report}${inPlace(slot)}`,
};
