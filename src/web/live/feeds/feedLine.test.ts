import { expect, it } from 'vitest';
import { gamepadSources } from '../../../core/inputs/gamepadSources';
import { voiceEvent } from '../../../core/voices/event';
import { decodeMidi, FRAME, sampleCount, sampleSignal, sampleValue } from '../../../protocol/frames';
import { readVoice } from '../../../protocol/voiceFrames';
import type { LiveConnection } from '../connection';
import { FeedLine } from './feedLine';

/** Behind what is said of a gate that was held while the line was lost. */
const HELD_ON = -1;

/** A line that is open or not, and what went by it. */
function setUp() {
  const sent: number[][] = [];
  const voices: string[] = [];
  const told: string[] = [];
  const listeners: { status: () => void; numbered: (name: string, sources: number[], midi: number, streams: number[]) => void } = { status: () => undefined, numbered: () => undefined };
  const live = {
    status: 'open',
    state: { listen: (listener: () => void) => ((listeners.status = listener), () => undefined) },
    store: { feedNumbered: { listen: (_: string, listener: typeof listeners.numbered) => ((listeners.numbered = listener), () => undefined) } },
    tell: ({ kind }: { kind: string }) => (told.push(kind), live.status === 'open'),
    sendFrame: (frame: (sequence: number, toHubMs: (ms: number) => number) => ArrayBuffer) => {
      const view = new DataView(frame(0, (ms) => ms));
      if (view.getUint8(0) === FRAME.midi) sent.push([...decodeMidi(view)!.bytes]);
      const kind = view.getUint8(0);
      if (kind === FRAME.feedVoices) {
        const event = voiceEvent();
        readVoice(view, 0, event);
        voices.push(`${event.kind} ${event.stream}/${event.voice} ${event.pitch} ${event.strike} ${event.pressure}`);
      }
      if (kind === FRAME.sources || kind === FRAME.sourcesHeldOn) for (let i = 0; i < sampleCount(view); i++) sent.push([sampleSignal(view, i), sampleValue(view, i), ...(kind === FRAME.sourcesHeldOn ? [HELD_ON] : [])]);
      return live.status === 'open';
    },
  };
  const line = new FeedLine(live as unknown as LiveConnection);
  const turn = (status: string) => {
    live.status = status;
    listeners.status();
  };
  return { line, sent, voices, told, turn, number: (midi: number, sources: number[] = [], streams: number[] = []) => listeners.numbered('keys', sources, midi, streams) };
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

it('says again what is held when the line is back, and nothing of what was let go meanwhile or only stands somewhere', () => {
  const { line, sent, turn, number } = setUp();
  const source = (key: string, kind: 'gate' | 'continuous') => ({ key, name: key, kind, unit: 'unit' as const, range: [0, 1] as [number, number] });
  line.add('keys', { kind: 'gamepad', report: 'pad', name: 'Pad' }, [source('low', 'gate'), source('high', 'gate'), source('stick', 'continuous'), source('top', 'gate')]);
  number(0, [10, 11, 12, 13]);
  line.send('keys', [{ key: 'low', value: 1 }, { key: 'high', value: 0.5 }, { key: 'stick', value: 0.25 }, { key: 'top', value: 1 }], 0);
  line.send('keys', [{ key: 'top', value: 0 }], 0);
  sent.length = 0;
  turn('lost');
  line.send('keys', [{ key: 'low', value: 0 }], 0);
  turn('open');
  number(0, [20, 21, 22, 23]);
  expect(sent).toEqual([[20, 0], [21, 0.5, HELD_ON]]);
  // Lost twice before the hub has numbered it.
  turn('lost');
  turn('open');
  turn('lost');
  turn('open');
  sent.length = 0;
  number(0, [30, 31, 32, 33]);
  expect(sent).toEqual([[31, 0.5, HELD_ON]]);
  // Let go of and pressed anew while nobody heard it, and another for the first time: both are presses.
  turn('lost');
  line.send('keys', [{ key: 'high', value: 0 }], 0);
  line.send('keys', [{ key: 'high', value: 1 }, { key: 'low', value: 1 }], 0);
  turn('lost');
  turn('open');
  sent.length = 0;
  number(0, [40, 41, 42, 43]);
  expect(sent).toEqual([[41, 1], [40, 1]]);
});

it('says again where what springs back is, for it may have sprung while nobody knew that the line was lost', () => {
  const { line, sent, turn, number } = setUp();
  line.add('keys', { kind: 'gamepad', report: 'pad', name: 'Pad' }, gamepadSources(1, 0));
  number(0, [10]);
  line.send('keys', [{ key: 'axis 0', value: 0.8 }], 0);
  // Into a line that is silent already.
  line.send('keys', [{ key: 'axis 0', value: 0 }], 0);
  turn('lost');
  turn('open');
  sent.length = 0;
  number(0, [20]);
  expect(sent).toEqual([[20, 0]]);
});

it('begins a voice that is sung before it is numbered, or through a lost line, as it is by then; one that ended meanwhile not', () => {
  const { line, voices, turn, number } = setUp();
  const say = (kind: 'on' | 'move' | 'off', voice: number, more = {}) => line.sendVoice('keys', 0, { ...voiceEvent(kind), voice, ...more }, 1);
  line.add('keys', { kind: 'microphone', report: 'keys', name: 'Throat' }, []);
  say('on', 1, { pitch: 50, strike: 0.5, pressure: 0.5 });
  say('off', 1);
  say('on', 2, { pitch: 53, strike: 0.5, pressure: 0.25 });
  say('move', 2, { pitch: 53.5 });
  expect(voices.splice(0)).toEqual([]);
  number(0, [], [7]);
  expect(voices.splice(0)).toEqual(['on 7/2 53.5 0.5 0.25']);
  // Numbered once more on the same line: the hub has it.
  number(0, [], [8]);
  say('move', 2, { pressure: 0.75 });
  expect(voices.splice(0)).toEqual(['move 8/2 NaN NaN 0.75']);
  turn('lost');
  say('move', 2, { pitch: 54 });
  say('on', 3, { pitch: 60, strike: 1, pressure: 1 });
  say('off', 3);
  turn('open');
  number(0, [], [1]);
  say('off', 2);
  say('off', 4);
  expect(voices).toEqual(['on 1/2 54 0.5 0.75', 'off 1/2 NaN NaN NaN']);
});
