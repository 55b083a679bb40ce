import { helloOf } from '../../protocol/live';
import type { LineSocket } from './lineSocket';

/** Where a page keeps the socket that was opened before its scripts were there. */
const PLACE = 'pumiceEarlySocket';

interface EarlySocket {
  socket: LineSocket & { readonly url: string };
  /** What was said there by itself, once it was open; else null. */
  said: string | null;
  /** What came meanwhile. */
  heard: { data: ArrayBuffer | string }[];
}

/**
 * A script for the first answer of a page: it opens the live line and says hello while the rest is still on its way, so that the page
 * has been welcomed when its own scripts run.
 * @param surface the surface that the page plays
 */
export function earlySocketScript(hubPort: number, surface: string): string {
  // As text of a script, which a `<` could end.
  const hello = JSON.stringify(helloOf(surface)).replaceAll('<', '\\u003c');
  return `(()=>{const socket=new WebSocket((location.protocol==='https:'?'wss':'ws')+'://'+location.hostname+':${hubPort}/live'),early=window.${PLACE}={socket,said:null,heard:[]};\
socket.binaryType='arraybuffer';socket.onopen=()=>socket.send(early.said=${hello});socket.onmessage=(event)=>early.heard.push(event)})()`;
}

/** The socket that was opened early to this place, once; null where there is none, or it failed meanwhile. What it heard already it will say. */
export function takeEarlySocket(url: string): LineSocket | null {
  const global = globalThis as { [PLACE]?: EarlySocket };
  const early = global[PLACE];
  delete global[PLACE];
  if (!early) return null;
  const { socket, said, heard } = early;
  if (socket.url !== url || socket.readyState > WebSocket.OPEN) {
    // It said hello, and nobody would be there.
    socket.close();
    return null;
  }
  // It opened while nobody listened.
  if (said !== null) {
    const send = socket.send.bind(socket);
    // Its first word, hello, was said.
    socket.send = (data) => {
      socket.send = send;
      if (data !== said) send(data);
    };
    queueMicrotask(() => {
      socket.onopen?.();
      for (const event of heard) socket.onmessage?.(event);
    });
  }
  return socket;
}
