import type { LineSocket } from './line';

/** Where a page keeps the socket that was opened before its scripts were there. */
const PLACE = 'pumiceEarlySocket';

/**
 * A script for the first answer of a page: it opens the live line while the rest is still on its way, so that the page is in
 * touch as soon as its own scripts run.
 */
export function earlySocketScript(hubPort: number): string {
  return `window.${PLACE}=new WebSocket((location.protocol==='https:'?'wss':'ws')+'://'+location.hostname+':${hubPort}/live')`;
}

/** The socket that was opened early to this place, once; null where there is none, or it failed meanwhile. */
export function takeEarlySocket(url: string): LineSocket | null {
  const global = globalThis as { [PLACE]?: WebSocket };
  const socket = global[PLACE];
  delete global[PLACE];
  if (!socket || socket.url !== url || socket.readyState > WebSocket.OPEN) return null;
  const line = socket as unknown as LineSocket;
  // It opened while nobody listened.
  if (socket.readyState === WebSocket.OPEN) queueMicrotask(() => line.onopen?.());
  return line;
}
