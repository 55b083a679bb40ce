import { device, inPlace, type FeedIdentity } from '../../inputs/kinds/kind';
import type { OutputBase, OutputKind } from './kind';

/** A MIDI port of a browser that lends it: of any computer whose page is open. */
export interface PageOutput extends OutputBase {
  kind: 'page';
  device: FeedIdentity;
}

export const page: OutputKind<PageOutput> = {
  fields: { device },
  takes: 'midi',
  words: ({ device: { report, slot } }) => `port ${report}${inPlace(slot)} of a browser`,
};
