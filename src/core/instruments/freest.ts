/** What is known of one of several voices that are given to notes in turn. */
export interface Turn {
  /** The key that it sounds for; null for none. */
  key: number | null;
  /** Until when it rings on after it was let go; in the past for one that is silent. */
  ringsUntilS: number;
  /** When it was struck last. */
  struckAtS: number;
}

/**
 * The voice that is missed least by a new note: the one of the same key, else a silent one, else the one that has rung on
 * longest, else the one that was struck first. Of silent ones the first, so that few are kept awake.
 */
export function freest<V extends Turn>(voices: readonly V[], key: number, nowS: number): V {
  const least = (of: readonly V[], at: (voice: V) => number) => of.reduce((one, other) => (at(other) < at(one) ? other : one));
  const free = voices.filter((voice) => voice.key === null);
  return voices.find((voice) => voice.key === key) ?? free.find(({ ringsUntilS }) => ringsUntilS <= nowS) ?? (free.length > 0 ? least(free, ({ ringsUntilS }) => ringsUntilS) : least(voices, ({ struckAtS }) => struckAtS));
}
