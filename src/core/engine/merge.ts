import type { PlannedAddress } from './plan';
import { SLOT, SLOTS } from './slots';

/**
 * What several mappings on one address come to, in the numbers of the wire: of those that are on and have a value the
 * highest, lowest, sum or average. Sum and average count from the origin of the address.
 */
export function merged({ mappings, merge, origin }: PlannedAddress, state: Float64Array, on: Uint8Array): number {
  let result = 0;
  let count = 0;
  for (let i = 0; i < mappings.length; i++) {
    const m = mappings[i]!;
    const exact = state[m * SLOTS + SLOT.exact]!;
    if (!on[m] || Number.isNaN(exact)) continue;
    count++;
    if (count === 1) result = exact;
    else if (merge === 'highest') result = Math.max(result, exact);
    else if (merge === 'lowest') result = Math.min(result, exact);
    else result += exact - (merge === 'sum' ? origin : 0);
  }
  return merge === 'average' && count > 0 ? result / count : result;
}
