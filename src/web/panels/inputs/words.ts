import type { FeedState } from '../../../protocol/live';

/** How long ago something was, as short as can be. */
export function agoInWords(msAgo: number | null): string {
  if (msAgo === null) return 'never';
  const seconds = Math.round(msAgo / 1000);
  if (seconds < 60) return `${seconds} s ago`;
  return seconds < 3600 ? `${Math.floor(seconds / 60)} min ago` : `${Math.floor(seconds / 3600)} h ago`;
}

/** Two digits or more of what comes in a second. */
const rate = (hz: number) => hz.toFixed(hz < 9.95 ? 1 : 0);

/** How often a signal comes or, where it does not, when it came last; empty where nothing is known. */
export function rateInWords(signal: FeedState['signals'][number] | undefined): string {
  if (!signal) return '';
  return signal.rateHz > 0 ? `${rate(signal.rateHz)}/s` : agoInWords(signal.lastHeardMsAgo);
}

/** How a feed is doing, in words. */
export function stateInWords(feed: FeedState | undefined): string {
  if (!feed) return 'not here';
  switch (feed.state) {
    case 'live':
      return `live, ${rate(feed.rateHz)} messages/s${feed.remark === null ? '' : ` · ${feed.remark}`}`;
    case 'silent':
      return feed.lastHeardMsAgo === null ? 'here, nothing heard yet' : `silent, last heard ${agoInWords(feed.lastHeardMsAgo)}`;
    case 'gone':
      return `gone, last heard ${agoInWords(feed.lastHeardMsAgo)}`;
    default:
      return feed.state satisfies never;
  }
}

/** Said where an input shows no signal. @param hidden how many it has all the same */
export function noneInWords(hidden: number, listens: boolean): string {
  if (hidden > 0) return hidden === 1 ? 'Its one signal is hidden.' : `All ${hidden} of its signals are hidden.`;
  return listens ? 'No signals yet: each comes as soon as it is moved.' : 'No signals yet. Switch on “Listen for new” and move it.';
}
