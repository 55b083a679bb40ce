import { createSocket } from 'node:dgram';
import { expect, it } from 'vitest';
import { decodeSession, encodeSession } from '../../core/rtpMidi/session';
import { hubTimeMs } from '../time';
import { NetworkSession } from './networkSession';

/** Two ports of a guest, and what the session said to it. */
async function guest(port: number, token: number) {
  const said: string[] = [];
  const open = () => {
    const socket = createSocket('udp4');
    socket.on('message', (bytes) => said.push(decodeSession(bytes)?.kind ?? 'stream'));
    return new Promise<typeof socket>((resolve) => socket.bind(0, '127.0.0.1', () => resolve(socket)));
  };
  const [control, data] = [await open(), await open()];
  const invite = (from: typeof control, to: number) => from.send(encodeSession({ kind: 'invitation', token, ssrc: token, name: 'Guest' }), to, '127.0.0.1');
  return { said, asks: () => invite(control, port), streams: () => invite(data, port + 1), close: () => [control, data].forEach((socket) => socket.close()) };
}

it('who comes while a session still waits for its last notes to arrive is not let in', async () => {
  const port = 21_000 + 2 * Math.floor(Math.random() * 400);
  const session = new NetworkSession('Pumice', port, '127.0.0.1', { mayConnect: () => true, guestAt: () => null, opened: () => undefined, closed: () => undefined, message: () => undefined, changed: () => undefined });
  await session.open();
  const [early, late] = [await guest(port, 1), await guest(port, 2)];
  early.asks();
  await expect.poll(() => early.said).toEqual(['accepted']);
  early.streams();
  await expect.poll(() => session.peers[0]?.peer.state).toBe('open');
  // Nobody says that this arrived, so that the end waits for it.
  session.peers[0]!.peer.send([[Uint8Array.of(0x90, 60, 100)]], hubTimeMs());
  const closing = session.close();
  late.asks();
  await closing;
  await expect.poll(() => early.said.at(-1)).toBe('bye');
  expect(late.said).toEqual([]);
  for (const one of [early, late]) one.close();
});
