import { createSocket } from 'node:dgram';
import { expect, it } from 'vitest';
import { OscUdp } from './oscUdp';
import type { Outgoing } from './outgoing';

it('what was sent just before it closes still goes: it may be the end of a voice', async () => {
  const listener = createSocket('udp4');
  await new Promise<void>((resolve) => listener.bind(0, '127.0.0.1', resolve));
  const heard: number[] = [];
  const all = new Promise<void>((resolve) => listener.on('message', ([byte]) => void (heard.push(byte!) === 3 && resolve())));
  const way = new OscUdp('127.0.0.1', listener.address().port);
  for (const byte of [1, 2, 3]) way.send({ bytes: Uint8Array.of(byte) } as Outgoing);
  way.close();
  await all;
  expect(heard).toEqual([1, 2, 3]);
  listener.close();
  // One that nothing was sent by closes at once.
  new OscUdp('127.0.0.1', 9).close();
});
