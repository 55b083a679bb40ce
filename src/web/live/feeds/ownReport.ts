/** What a device of this browser calls itself; made once and kept by the browser, so that it is known again tomorrow. */
export function ownReport(feed: string, key: string): string {
  const kept = localStorage.getItem(key);
  if (kept) return kept;
  const made = `${feed} ${crypto.getRandomValues(new Uint32Array(2)).join('-')}`;
  localStorage.setItem(key, made);
  return made;
}
