import { expect, it } from 'vitest';
import { decodeMidi, FRAME } from '../../../protocol/frames';
import type { LiveConnection } from '../connection';
import { FeedLine } from './feedLine';

/** A line that is open or not, and what went by it. */
function setUp() {
  const sent: number[][] = [];
  const told: string[] = [];
  const listeners: { status: () => void; numbered: (name: string, sources: number[], midi: number) => void } = { status: () => undefined, numbered: () => undefined };
  const live = {
    status: 'open',
    state: { listen: (listener: () => void) => ((listeners.status = listener), () => undefined) },
    store: { feedNumbered: { listen: (_: string, listener: typeof listeners.numbered) => ((listeners.numbered = listener), () => undefined) } },
    tell: ({ kind }: { kind: string }) => (told.push(kind), live.status === 'open'),
    sendFrame: (frame: (sequence: number, toHubMs: (ms: number) => number) => ArrayBuffer) => {
      const view = new DataView(frame(0, (ms) => ms));
      if (view.getUint8(0) === FRAME.midi) sent.push([...decodeMidi(view)!.bytes]);
      return true;
    },
  };
  const line = new FeedLine(live as unknown as LiveConnection);
  const turn = (status: string) => {
    live.status = status;
    listeners.status();
  };
  return { line, sent, told, turn, number: (midi: number) => listeners.numbered('keys', [], midi) };
}

it('keeps what a keyboard plays before the hub has numbered it, and sends it then in order', () => {
  const { line, sent, number } = setUp();
  line.add('keys', { kind: 'midi', report: 'keys', name: 'Keys' }, []);
  line.sendMidi('keys', [0x90, 60, 100], 1);
  line.sendMidi('keys', [0x80, 60, 64], 2);
  expect(sent).toEqual([]);
  number(0);
  line.sendMidi('keys', [0x90, 62, 100], 3);
  expect(sent).toEqual([[0x90, 60, 100], [0x80, 60, 64], [0x90, 62, 100]]);
});

it('does not play later what was played while the line was down', () => {
  const { line, sent, told, turn, number } = setUp();
  line.add('keys', { kind: 'midi', report: 'keys', name: 'Keys' }, []);
  line.sendMidi('keys', [0x90, 59, 100], 1);
  turn('lost');
  line.sendMidi('keys', [0x90, 60, 100], 1);
  turn('open');
  expect(told).toEqual(['feed', 'feed']);
  number(3);
  expect(sent).toEqual([]);
  line.sendMidi('keys', [0x90, 62, 100], 3);
  expect(sent).toEqual([[0x90, 62, 100]]);
});
