import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { WebSocketServer, type WebSocket } from 'ws';
import type { FromWeb, ToWeb } from '../protocol/live';
import { HubLink } from './hubLink';

const RECALL = { kind: 'recall', scene: 'fog-bank' } as const;
const ends: (() => void)[] = [];
afterEach(() => {
  vi.useRealTimers();
  for (const end of ends.splice(0)) end();
});

const linkTo = (port: number) => {
  const nothing = () => undefined;
  const link = new HubLink(`ws://127.0.0.1:${port}`, '', pino({ level: 'silent' }), { connected: nothing, value: nothing, found: nothing, take: nothing, takeWants: nothing, wantsAll: nothing, inputOf: String });
  ends.push(() => link.stop());
  return link;
};

/** Hubs that follow one another at one port: `hears` is given what each hears, and how it answers or dies. */
async function hubs(hears: (message: FromWeb, hub: { number: number; say: (message: ToWeb) => void; die: () => void }) => void): Promise<{ link: HubLink; play: (hub: WebSocket) => void; opened: WebSocket[] }> {
  const server = new WebSocketServer({ port: 0, host: '127.0.0.1' });
  ends.push(() => server.close());
  await once(server, 'listening');
  const opened: WebSocket[] = [];
  const saying = (socket: WebSocket) => (message: ToWeb) => socket.send(JSON.stringify(message));
  server.on('connection', (socket) => {
    const number = opened.push(socket);
    saying(socket)({ kind: 'hello', pid: number, names: { signals: [], mappings: [], streams: [], outputs: [] }, recording: null });
    socket.on('message', (data) => hears(JSON.parse(String(data as Buffer)) as FromWeb, { number, say: saying(socket), die: () => socket.terminate() }));
  });
  const link = linkTo((server.address() as AddressInfo).port);
  link.connect();
  return { link, play: (socket) => saying(socket)({ kind: 'plays', rig: 'night-ferry', revision: 1 }), opened };
}

it('knows for the next hub where a piece is by now; after a longer time without one, where it was then', async () => {
  const { link, opened } = await hubs(() => undefined);
  await vi.waitFor(() => expect(opened.length).toBe(1));
  const standing = { scene: null, mappings: {}, voiceMappings: {}, members: {}, alone: {}, tappedBpm: null, turned: {}, piece: { running: true, bpm: 60, beat: 8, atSystemMs: 750 } };
  const clock = vi.spyOn(process.hrtime, 'bigint');
  const nowIs = (ms: number) => clock.mockReturnValue(BigInt(ms) * 1_000_000n);
  nowIs(1000);
  opened[0]!.send(JSON.stringify({ kind: 'stands', rig: 'night-ferry', standing } satisfies ToWeb));
  await vi.waitFor(() => expect(link.asItStood('night-ferry').standing).toBeDefined());
  expect(link.asItStood('other')).toEqual({});
  nowIs(3000);
  opened[0]!.terminate();
  await vi.waitFor(() => expect(link.connected).toBe(false));
  nowIs(4000);
  expect(link.asItStood('night-ferry').standing!.piece).toEqual(standing.piece);
  nowIs(8000);
  expect(link.asItStood('night-ferry').standing!.piece).toMatchObject({ running: false, beat: 10.25 });
  clock.mockRestore();
});

describe('what a person wants done', () => {
  it('waits for a hub that has no rig yet: there it would be lost', async () => {
    const heard: string[] = [];
    const { link, play, opened } = await hubs((message, { say }) => {
      heard.push(message.kind);
      if (message.kind === 'obeyed') say(message);
    });
    await vi.waitFor(() => expect(link.connected && opened.length).toBe(1));
    const done = link.surely(RECALL);
    await link.obeyed();
    expect(heard).toEqual(['obeyed']);
    play(opened[0]!);
    expect(await done).toBe(true);
    expect(heard).toEqual(['obeyed', 'recall', 'obeyed']);
  });

  it('is said again to the hub that follows one that died over it', async () => {
    const recalled: number[] = [];
    const { link, play, opened } = await hubs((message, { number, say, die }) => {
      if (message.kind === 'recall') recalled.push(number);
      if (number === 1) die();
      else if (message.kind === 'obeyed') say(message);
    });
    await vi.waitFor(() => expect(opened.length).toBe(1));
    play(opened[0]!);
    const done = link.surely(RECALL);
    await vi.waitFor(() => expect(opened.length).toBe(2));
    play(opened[1]!);
    expect(await done).toBe(true);
    expect(recalled).toEqual([1, 2]);
  });

  it('is given up where nobody comes back', async () => {
    vi.useFakeTimers();
    const done = linkTo(1).surely(RECALL);
    await vi.advanceTimersByTimeAsync(3000);
    expect(await done).toBe(false);
  });
});
