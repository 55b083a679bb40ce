import { ofBrowser } from '../../remember';

/** What a device of this browser calls itself; made once and kept by the browser, so that it is known again tomorrow. */
export function ownReport(feed: string, key: string): string {
  const kept = ofBrowser.get(key);
  if (kept) return kept;
  const made = `${feed} ${crypto.getRandomValues(new Uint32Array(2)).join('-')}`;
  ofBrowser.set(key, made);
  return made;
}
