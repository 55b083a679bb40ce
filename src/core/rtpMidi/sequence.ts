const ROUND = 0x10000;
const HALF = 0x8000;

/** The count of a packet from the 16 bits that it says, the nearest to one that is known: so numbers go on where they begin anew. */
export function unfold(sequence: number, near: number): number {
  const ahead = (sequence - near) & (ROUND - 1);
  return near + (ahead < HALF ? ahead : ahead - ROUND);
}

export const fold = (count: number): number => ((count % ROUND) + ROUND) % ROUND;
