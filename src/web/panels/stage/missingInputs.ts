import { inputKind } from '../../../core/inputs/kinds';
import type { RigDocument } from '../../../core/rig/document';
import type { FeedState, InputsState } from '../../../protocol/live';

/**
 * The inputs of a rig that are not here, by their names: feeds that left or fell silent, and those that were not heard at
 * all since the start. Surfaces are listed apart; what a rig plays by itself cannot be missing.
 */
export function missingInputs(rig: RigDocument, state: InputsState | null): { name: string; why: string }[] {
  if (!state) return [];
  return rig.inputs.flatMap((input) => {
    if (!inputKind(input.kind).canBeAway) return [];
    // An open OSC input takes its addresses from any sender: it is here while one of them speaks.
    const feeds = state.feeds.filter((feed) => feed.input === input.id);
    if (feeds.some((feed) => feed.state === 'live')) return [];
    return [{ name: input.name, why: whyMissing(feeds) }];
  });
}

function whyMissing(feeds: readonly FeedState[]): string {
  if (feeds.some(({ state }) => state === 'silent')) return 'is silent';
  return feeds.length > 0 ? 'is gone' : 'is not here';
}
