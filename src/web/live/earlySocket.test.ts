import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { LiveConnection } from './connection';
import { earlySocketScript, takeEarlySocket } from './earlySocket';
import type { LineSocket } from './lineSocket';

const URL_OF_LINE = 'ws://localhost:4501/live';

/** The socket of the browser, as far as the script and the line use it. */
class Socket {
  static readonly OPEN = 1;
  static last: Socket;
  readyState = 0;
  binaryType = 'blob';
  readonly sent: unknown[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;
  constructor(readonly url: string) {
    Socket.last = this;
  }
  send(data: string | ArrayBuffer): void {
    this.sent.push(typeof data === 'string' ? JSON.parse(data) : { kind: 'frame' });
  }
  close(): void {
    this.readyState = 3;
  }
  open(): void {
    this.readyState = 1;
    this.onopen?.();
  }
  say(message: object): void {
    this.onmessage?.({ data: JSON.stringify(message) });
  }
}

const WELCOME = { kind: 'welcome', version: 1, hubTimeMs: 0, names: { signals: [[3, 'fog']], mappings: [], streams: [], outputs: [] }, rig: 'night', revision: 4, stage: false };

beforeEach(() => {
  vi.stubGlobal('WebSocket', Socket);
  vi.stubGlobal('window', globalThis);
  vi.stubGlobal('location', { protocol: 'http:', hostname: 'localhost' });
});
afterEach(() => void vi.unstubAllGlobals());

const runScript = (surface = 'deck') => new Function(earlySocketScript(4501, surface))();

/** A page whose scripts have come. */
function page(surface = 'deck') {
  const opened: (LineSocket | null)[] = [];
  const live = new LiveConnection(
    {
      open() {
        opened.push(takeEarlySocket(URL_OF_LINE));
        return opened.at(-1) ?? (new Socket(URL_OF_LINE) as unknown as LineSocket);
      },
      ask: () => Promise.resolve(true),
      nowMs: () => 0,
      after: () => () => undefined,
      onAwake: () => () => undefined,
    },
    surface,
    () => 0,
  );
  live.start();
  return { live, opened };
}
const hellos = (socket: Socket) => socket.sent.filter((message) => (message as { kind: string }).kind === 'hello');

it('says hello once, and what came before the page was there is heard by it', async () => {
  runScript();
  const socket = Socket.last;
  socket.open();
  expect(hellos(socket)).toEqual([expect.objectContaining({ kind: 'hello', surface: 'deck' })]);
  socket.say(WELCOME);
  const { live } = page();
  await Promise.resolve();
  expect([live.status, hellos(socket).length, socket.binaryType]).toEqual(['open', 1, 'arraybuffer']);
  expect(live.send([{ signal: 'fog', value: 1 }], 0)).toBe(true);
});

it('that is not open yet when the page is there is greeted by the page', async () => {
  runScript();
  const socket = Socket.last;
  const { live } = page();
  await Promise.resolve();
  socket.open();
  socket.say(WELCOME);
  expect([live.status, hellos(socket).length]).toEqual(['open', 1]);
});

it('that failed meanwhile, or was taken, is not taken', async () => {
  runScript();
  Socket.last.open();
  Socket.last.readyState = 3;
  expect(page().opened).toEqual([null]);
  runScript();
  Socket.last.open();
  expect([takeEarlySocket('ws://elsewhere:4501/live'), takeEarlySocket(URL_OF_LINE), Socket.last.readyState]).toEqual([null, null, 3]);
});

it('has no surface end its script', () => {
  const script = earlySocketScript(4501, '</script><script>alert(1)');
  expect(script).not.toContain('</script');
  runScript('</script><script>alert(1)');
  Socket.last.open();
  expect(hellos(Socket.last)).toEqual([expect.objectContaining({ surface: '</script><script>alert(1)' })]);
});
