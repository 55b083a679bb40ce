import { object, whole, type Fields, type Shape } from '../../messages/shapes';
import type { RigDocument, RigSignal } from '../../rig/document';
import type { Change } from '../../rig/edit';

/** How a feed is known again: by what it says of itself, and among several that say the same by its place, from 1. */
export interface FeedIdentity {
  report: string;
  slot: number;
}

export interface InputBase {
  id: string;
  name: string;
  /** Hidden ones play on but are not listed. */
  hidden?: boolean;
}

/** All that is known of a kind of input: one of these is one file, and a row in `index`. */
export interface InputKind<I extends InputBase> {
  /** The fields of its document besides id, kind, name and hidden. */
  fields: Fields;
  /** What it is, in words. */
  words(input: I): string;
  /** The input that a feed of this kind becomes by itself; absent where only a person makes one. */
  found?(base: InputBase, device: FeedIdentity): I;
  /** Whether one without a feed waits for the next that the rig does not know. */
  waits?: true;
  /** Whether a feed says at once all that it has, and is taken up whole; others grow as they are heard. */
  comesWhole?: true;
  /** Whether one that speaks from another place is mostly the same thing that moved. */
  moves?: true;
  /** Whether it can be away: what the rig plays by itself cannot, and surfaces say so for themselves. */
  canBeAway: boolean;
  /** The streams of voices that every input of this kind has, each by what it is called within the feed. */
  streams?: readonly { source: string; name: string }[];
  /** Mappings that make a feed sound at once that was never seen. */
  ready?(rig: RigDocument, input: I, signals: readonly RigSignal[], ids: Set<string>): Change[];
}

export const REPORT_LENGTH = 200;
export const device: Shape = object({ report: { is: 'text', most: REPORT_LENGTH, pattern: { expression: /./, words: 'a word' } }, slot: whole(1, 64) });
export const oscAddress: Shape = { is: 'text', most: 200, pattern: { expression: /^\//, words: 'an OSC address' } };
export const inPlace = (slot: number) => (slot > 1 ? `, number ${slot}` : '');
