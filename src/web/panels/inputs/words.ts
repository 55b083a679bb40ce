import type { FeedState } from '../../../protocol/live';

/** How long ago something was, as short as can be. */
export function agoInWords(msAgo: number | null): string {
  if (msAgo === null) return 'never';
  const seconds = Math.round(msAgo / 1000);
  if (seconds < 60) return `${seconds} s ago`;
  return seconds < 3600 ? `${Math.floor(seconds / 60)} min ago` : `${Math.floor(seconds / 3600)} h ago`;
}

/** How a feed is doing, in words. */
export function stateInWords(feed: FeedState | undefined): string {
  if (!feed) return 'not here';
  switch (feed.state) {
    case 'live':
      return `live, ${feed.rateHz.toFixed(feed.rateHz < 10 ? 1 : 0)} messages/s${feed.remark === null ? '' : ` · ${feed.remark}`}`;
    case 'silent':
      return feed.lastHeardMsAgo === null ? 'here, nothing heard yet' : `silent, last heard ${agoInWords(feed.lastHeardMsAgo)}`;
    case 'gone':
      return `gone, last heard ${agoInWords(feed.lastHeardMsAgo)}`;
    default:
      return feed.state satisfies never;
  }
}
