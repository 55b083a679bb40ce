const LAST = 'pumice.loaded-anew';
/** One that broke again so soon after would break for ever. */
const AGAIN_MS = 10_000;

/**
 * Loads a page anew that broke, but for one that did so a moment ago, or where that cannot be remembered.
 * @param store gives where it is remembered; throws where the browser forbids it
 * @param nowMs of any clock that goes on while it loads
 */
export function loadAnew(store: () => Pick<Storage, 'getItem' | 'setItem'>, load: () => void, nowMs: number): void {
  try {
    const lastMs = Number(store().getItem(LAST) ?? -Infinity);
    if (Math.abs(nowMs - lastMs) < AGAIN_MS) return;
    store().setItem(LAST, String(nowMs));
  } catch {
    return;
  }
  load();
}
