import { createSocket } from 'node:dgram';
import { expect, it, vi } from 'vitest';
import { KEEP, VOICE_BASE } from '../../core/engine/sink';
import { decodeOsc, encodeOsc } from '../../net/osc/codec';
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

/** A way out in a system that answers with a code, or with none; what is sent is a path and a value, or an end of a voice by its number. */
function standing() {
  vi.useFakeTimers();
  const system: { code: string | null; wayIsThere: boolean; answersLate: boolean } = { code: null, wayIsThere: true, answersLate: false };
  const answers: (() => void)[] = [];
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
      const { code } = system;
      if (code === null) left.push(decodeOsc(bytes).map(({ address, arguments: values }) => [address, ...values].join(' '))[0]!);
      answers.push(() => done(errorOf(code)));
      if (!system.answersLate) answers.splice(0).forEach((answer) => answer());
    }) as never,
  }));
  const send = (path: string, values: number[], more: Partial<Outgoing>) =>
    way.send({ output: 'o', kind: 'osc', bytes: encodeOsc(path, values.map((value) => ({ type: 'i', value }))), atMs: 0, by: 0, address: KEEP, ...more });
  return {
    system,
    said,
    left,
    way,
    /** Of a mapping, at a place in its plan. */
    value: (path: string, value: number, address: number) => send(path, [value], { address }),
    /** Something that happens once. */
    press: (path: string) => send(path, [], {}),
    on: (voice: number) => send('/hull/on', [voice], { by: VOICE_BASE, held: { what: `/hull/off ${voice}`, ends: false } }),
    off: (voice: number) => send('/hull/off', [voice], { by: VOICE_BASE, held: { what: `/hull/off ${voice}`, ends: true } }),
    slide: (voice: number, value: number) => send('/hull/slide', [voice, value], { by: VOICE_BASE, address: 7 }),
    later: () => vi.advanceTimersByTime(2000),
    /** The system says what became of all that it was given. */
    answer: () => {
      while (answers.length > 0) answers.shift()!();
    },
  };
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
  const { system, said, left, value, press, on, off, slide, later, way } = standing();
  on(1);
  on(2);
  left.length = 0;
  system.code = 'ENETUNREACH';
  system.wayIsThere = false;
  value('/fog', 1, 3);
  value('/fog', 2, 3);
  value('/sail', 1, 4);
  press('/bell');
  on(3);
  slide(1, 5);
  slide(2, 6);
  off(1);
  off(2);
  later();
  expect([said, left]).toEqual([['cannot be reached: no network of this computer leads to 10.0.0.7'], []]);
  // It is back, and a finger says so before it was looked for; an edit has given the value another place meanwhile.
  system.code = null;
  system.wayIsThere = true;
  value('/sail', 2, 3);
  expect(said[1]).toBeNull();
  expect(left).toEqual(['/sail 2', '/fog 2', '/hull/slide 1 5', '/hull/slide 2 6', '/hull/off 1', '/hull/off 2']);
  later();
  expect(left).toHaveLength(6);
  way.close();
});

it('does not say an old value after a newer one that is on its way already: two axes move together, or it is looked just then', () => {
  for (const isLooked of [false, true]) {
    const { system, left, value, later, answer, way } = standing();
    system.code = 'ENETUNREACH';
    for (const path of ['/x', '/y', '/z']) value(path, 1, 0);
    Object.assign(system, { code: null, answersLate: true });
    value('/x', 2, 0);
    value('/y', 2, 0);
    if (isLooked) later();
    answer();
    expect(left).toEqual(['/x 2', '/y 2', '/z 1']);
    way.close();
  }
});

it('does not end a voice that began meanwhile under the number of one that had to be ended', () => {
  const { system, left, on, off, way } = standing();
  system.code = 'ENETUNREACH';
  off(1);
  system.code = null;
  on(1);
  expect(left).toEqual(['/hull/on 1']);
  way.close();
});

it('tries again what a full system did not take, without a word; and one that forbids it is there once it lets something leave', () => {
  const { system, said, left, value, later, way } = standing();
  system.code = 'ENOBUFS';
  value('/fog', 1, 3);
  system.code = null;
  later();
  expect([said, left]).toEqual([[], ['/fog 1']]);
  system.code = 'EPERM';
  value('/fog', 2, 3);
  later();
  later();
  expect(said).toEqual(['cannot be reached: this computer lets nothing leave for 10.0.0.7; a firewall, perhaps']);
  system.code = null;
  later();
  expect([said[1], left]).toEqual([null, ['/fog 1', '/fog 2']]);
  way.close();
});

it('a system that has no port of its kind is said, and asked on without keeping anything of it', () => {
  vi.useFakeTimers();
  const said: (string | null)[] = [];
  let open = 0;
  const way = new OscUdp('fd00::7', 9000, { state: (away) => said.push(away) }, () => {
    open++;
    let failed: (error: Error) => void = () => undefined;
    const fail = () => failed(Object.assign(new Error('no such family'), { code: 'EAFNOSUPPORT' }));
    return {
      bind: fail as never,
      connect: fail,
      on: ((_event: string, listener: typeof failed) => void (failed = listener)) as never,
      close: () => void open-- as never,
      setBroadcast: () => undefined,
      send: () => undefined,
    };
  });
  vi.advanceTimersByTime(10_000);
  way.send({ output: 'o', kind: 'osc', bytes: encodeOsc('/fog', []), atMs: 0, by: 0, address: 3 });
  expect([said, open]).toEqual([['cannot be reached: no network of this computer leads to fd00::7'], 1]);
  way.close();
  expect(open).toBe(0);
});
