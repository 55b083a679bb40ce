import { createSocket } from 'node:dgram';
import { expect, it, vi } from 'vitest';
import { KEEP } from '../../core/midi/keep';
import { OscUdp } from './oscUdp';
import type { Outgoing } from './outgoing';

const QUIET = { state: () => undefined };

it('what was sent just before it closes still goes: it may be the end of a voice', async () => {
  const listener = createSocket('udp4');
  await new Promise<void>((resolve) => listener.bind(0, '127.0.0.1', resolve));
  const heard: number[] = [];
  const all = new Promise<void>((resolve) => listener.on('message', ([byte]) => void (heard.push(byte!) === 3 && resolve())));
  const way = new OscUdp('127.0.0.1', listener.address().port, QUIET);
  for (const byte of [1, 2, 3]) way.send({ bytes: Uint8Array.of(byte) } as Outgoing);
  way.close();
  await all;
  expect(heard).toEqual([1, 2, 3]);
  listener.close();
  // One that nothing was sent by closes at once.
  new OscUdp('127.0.0.1', 9, QUIET).close();
});

it('reaches all of a network by its broadcast address', async () => {
  const listener = createSocket('udp4');
  await new Promise<void>((resolve) => listener.bind(0, resolve));
  const heard = new Promise((resolve) => listener.once('message', resolve));
  const way = new OscUdp('127.255.255.255', listener.address().port, QUIET);
  way.send({ bytes: Uint8Array.of(7) } as Outgoing);
  expect(await heard).toEqual(Buffer.of(7));
  way.close();
  listener.close();
});

/** A way out in a system that answers with a code, or with none. */
function standing() {
  vi.useFakeTimers();
  const system: { code: string | null; wayIsThere: boolean } = { code: null, wayIsThere: true };
  const errorOf = (code: string | null) => (code === null ? null : Object.assign(new Error(code), { code }));
  const said: (string | null)[] = [];
  const left: string[] = [];
  const way = new OscUdp('10.0.0.7', 9000, { state: (away) => said.push(away) }, () => ({
    bind: () => undefined as never,
    close: () => undefined as never,
    on: () => undefined as never,
    setBroadcast: () => undefined,
    connect: (_port: unknown, _host: unknown, answered?: unknown) => (answered as (error: Error | null) => void)(system.wayIsThere ? null : errorOf('ENETUNREACH')),
    send: ((bytes: Uint8Array, _port: number, _host: string, done: (error: Error | null) => void) => {
      if (system.code === null) left.push(String.fromCharCode(...bytes));
      done(errorOf(system.code));
    }) as never,
  }));
  const send = (text: string, address: number = KEEP, held?: Outgoing['held']) => way.send({ output: 'o', kind: 'osc', bytes: Uint8Array.from(text, (char) => char.charCodeAt(0)), atMs: 0, by: 0, address, held });
  return { system, said, left, send, way, later: () => vi.advanceTimersByTime(2000) };
}

it('says that no way leads there, before anything is sent, and that one does again', () => {
  const { system, said, later, way } = standing();
  later();
  expect(said).toEqual([]);
  system.wayIsThere = false;
  later();
  later();
  expect(said).toEqual(['cannot be reached: no network of this computer leads to 10.0.0.7']);
  system.wayIsThere = true;
  later();
  expect(said[1]).toBeNull();
  way.close();
  system.wayIsThere = false;
  later();
  expect(said).toHaveLength(2);
});

it('says again what did not leave: the newest of each value and the ends of voices, not what only happened', () => {
  const { system, said, left, send, later, way } = standing();
  send('voice 1 on', KEEP, { what: '/off 1', ends: false });
  send('voice 2 on', KEEP, { what: '/off 2', ends: false });
  left.length = 0;
  system.code = 'ENETUNREACH';
  system.wayIsThere = false;
  send('fog 1', 3);
  send('fog 2', 3);
  send('sail 1', 4);
  send('press');
  send('voice 3 on', KEEP, { what: '/off 3', ends: false });
  send('voice 1 off', KEEP, { what: '/off 1', ends: true });
  send('voice 2 off', KEEP, { what: '/off 2', ends: true });
  later();
  expect([said, left]).toEqual([['cannot be reached: no network of this computer leads to 10.0.0.7'], []]);
  // It is back, and a finger says so before it was looked for.
  system.code = null;
  system.wayIsThere = true;
  send('sail 2', 4);
  expect(said[1]).toBeNull();
  expect(left).toEqual(['sail 2', 'fog 2', 'voice 1 off', 'voice 2 off']);
  later();
  expect(left).toHaveLength(4);
  way.close();
});

it('does not end a voice that began meanwhile under the number of one that had to be ended', () => {
  const { system, left, send, way } = standing();
  system.code = 'ENETUNREACH';
  send('voice 1 off', KEEP, { what: '/off 1', ends: true });
  system.code = null;
  send('voice 1 on', KEEP, { what: '/off 1', ends: false });
  expect(left).toEqual(['voice 1 on']);
  way.close();
});

it('tries again what a full system did not take, without a word; and one that forbids it is there once it lets something leave', () => {
  const { system, said, left, send, later, way } = standing();
  system.code = 'ENOBUFS';
  send('fog 1', 3);
  system.code = null;
  later();
  expect([said, left]).toEqual([[], ['fog 1']]);
  system.code = 'EPERM';
  send('fog 2', 3);
  later();
  later();
  expect(said).toEqual(['cannot be reached: this computer lets nothing leave for 10.0.0.7; a firewall, perhaps']);
  system.code = null;
  later();
  expect([said[1], left]).toEqual([null, ['fog 1', 'fog 2']]);
  way.close();
});
