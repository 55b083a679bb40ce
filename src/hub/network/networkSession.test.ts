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

it('what would go to no port goes nowhere: who is at the last one has none above, who claims the first has none beneath', async () => {
  const port = 22_000 + 2 * Math.floor(Math.random() * 400);
  const session = new NetworkSession('Pumice', port, '127.0.0.1', { mayConnect: () => true, guestAt: () => 'Guest', opened: () => undefined, closed: () => undefined, message: () => undefined, changed: () => undefined });
  await session.open();
  for (const at of [0, 0xffff]) session.invite(`Guest at ${at}`, { address: '127.0.0.1', port: at });
  for (const { peer, where } of session.peers) if (where.control.port === 0xffff) peer.session({ kind: 'accepted', token: peer.token, ssrc: 1, name: 'Guest' }, 'control', hubTimeMs());
  session.tick(hubTimeMs() + 2000);
  expect(session.peers.map(({ where, peer }) => [where.control.port, peer.state])).toEqual([[0, 'control'], [0xffff, 'data']]);
  await session.close();
});
