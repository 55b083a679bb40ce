import { WebSocket } from 'ws';
import { encodeSamples } from '../src/protocol/frames';
import { LIVE_VERSION, type ToClient } from '../src/protocol/live';
import { NamesBook } from '../src/protocol/names';
import { atRate, nowMs, sleep } from './pace';

/**
 * A process of fingers: plays surfaces (or an echo), each with several fingers of a frame of its own, as a play page
 * sends them. Told what to do in one message; answers with how many frames it sent.
 */
export interface FingersWork {
  url: string;
  /** Ids of the surfaces, one page each; for an echo their number alone counts. */
  surfaces: string[];
  fingers: number;
  rateHz: number;
  forMs: number;
  echo: boolean;
}

process.once('message', (work: FingersWork) => void play(work).then((sent) => process.send!(sent)));

async function play({ url, surfaces, fingers, rateHz, forMs, echo }: FingersWork): Promise<number> {
  const pages = await Promise.all(
    surfaces.map(async (surface) => {
      const socket = new WebSocket(url, { perMessageDeflate: false });
      const names = new NamesBook();
      socket.on('message', (data, isBinary) => {
        if (isBinary || echo) return;
        const message = JSON.parse(String(data)) as ToClient;
        if ('names' in message) names.learn(message.names);
      });
      await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
      if (!echo) {
        socket.send(JSON.stringify({ kind: 'hello', version: LIVE_VERSION, surface }));
        while (names.signals.size === 0) await sleep(10);
      }
      return { socket, signals: Array.from({ length: fingers }, (_, finger) => (echo ? finger : names.signals.numberOf(`${surface}.${finger}`)!)) };
    }),
  );
  let sent = 0;
  await atRate(rateHz, forMs, (i) => {
    for (const { socket, signals } of pages) {
      for (const signal of signals) {
        // Every sample is another 7-bit number than the one before, so that every one makes a message.
        socket.send(encodeSamples(sent++ >>> 0, nowMs(), [{ signal, value: (i % 128) / 127 }]));
      }
    }
  });
  await sleep(500);
  for (const { socket } of pages) socket.close();
  return sent;
}
