const LAST = 'pumice.loaded-anew';
/** One that broke again so soon after would break for ever. */
const AGAIN_MS = 10_000;

/** Loads a page anew that broke, but for one that did so a moment ago. @param nowMs of any clock that goes on while it loads */
export function loadAnew(store: Pick<Storage, 'getItem' | 'setItem'>, load: () => void, nowMs: number): void {
  const lastMs = Number(store.getItem(LAST) ?? -Infinity);
  if (Math.abs(nowMs - lastMs) < AGAIN_MS) return;
  store.setItem(LAST, String(nowMs));
  load();
}
