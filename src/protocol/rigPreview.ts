import type { FeedKind } from '../core/inputs/feed';

/** What a rig document holds, to be shown before it is taken in. */
export interface RigPreview {
  name: string;
  counts: Record<'inputs' | 'signals' | 'mappings' | 'surfaces' | 'outputs' | 'scenes', number>;
  /** Clashes of addresses, each in words. */
  clashes: string[];
  /** The devices that its inputs stand for. */
  feeds: { name: string; kind: FeedKind; report: string; slot: number }[];
}
