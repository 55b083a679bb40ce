import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { ControlOf, PitchField } from '../../core/rig/document';
import { VoiceDesk } from './voiceDesk';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const at = (x: number, y = 250, size = 0) => ({ at: { x, y }, size });
const field = (more: Partial<PitchField> = {}): ControlOf<'pitchField'> => ({ id: 'field', label: '', signals: {}, stream: 's', kind: 'pitchField', frame: { x: 0, y: 0, width: 240, height: 300 }, rows: 1, low: 48, span: 24, interval: 7, strikeFrom: 'fixed', pressureFrom: 'travel', across: false, ...more });
const keys: ControlOf<'keys'> = { id: 'keys', label: '', signals: {}, stream: 's', kind: 'keys', frame: { x: 0, y: 0, width: 700, height: 300 }, low: 60, high: 71, strength: 'fixed' };

function made(control: ControlOf<'pitchField' | 'keys'>) {
  const said: string[] = [];
  let isOpen = true;
  let shown = 0;
  const desk = new VoiceDesk({
    sendVoices(voices) {
      if (!isOpen) return false;
      for (const { kind, voice, pitch, strike } of voices) said.push([kind, voice, ...(kind === 'off' ? [] : [Number(pitch.toFixed(2))]), ...(kind === 'on' ? [Number(strike.toFixed(2))] : [])].join(' '));
      return true;
    },
  });
  const leave = desk.place(control, (voices) => (shown = voices.size));
  return { desk, leave, line: (open: boolean) => (isOpen = open), take: () => said.splice(0), shown: () => shown };
}

it('each finger is a voice from when it comes down until it lifts', () => {
  const { desk, take, shown } = made(field());
  desk.down(1, 'field', at(120), 0);
  desk.down(2, 'field', at(0), 1);
  desk.move(1, at(125), 2);
  expect([take(), shown()]).toEqual([['on 1 60 0.79', 'on 2 48 0.79', 'move 1 60.5'], 2]);
  desk.up(1, 3);
  desk.up(1, 4);
  desk.move(1, at(130), 5);
  expect([take(), shown()]).toEqual([['off 1'], 1]);
});

it('over keys the next voice begins before the last one ends', () => {
  const { desk, take } = made(keys);
  desk.down(1, 'keys', at(50, 290), 0);
  desk.move(1, at(150, 290), 1);
  desk.up(1, 2);
  expect(take()).toEqual(['on 1 60 1', 'on 2 62 1', 'off 1', 'off 2']);
});

it('a control that is taken away ends the voices of its fingers', () => {
  const { desk, leave, take } = made(field());
  desk.down(1, 'field', at(120), 0);
  take();
  leave();
  desk.move(1, at(125), 1);
  expect(take()).toEqual(['off 1']);
});

it('with the line down nothing is said or shown; when it is back, what fingers hold begins again where they are', () => {
  const { desk, line, take, shown } = made(field());
  desk.down(1, 'field', at(120), 0);
  desk.down(2, 'field', at(0), 0);
  take();
  line(false);
  desk.move(1, at(130), 1);
  desk.up(2, 2);
  expect([take(), shown()]).toEqual([[], 0]);
  line(true);
  desk.sayHeldAgain(3);
  desk.up(1, 4);
  expect([take(), shown()]).toEqual([['on 1 61 0.79', 'off 1'], 0]);
});

it('where growth says how hard, a touch is watched for 20 ms first; a shorter tap is still a tap', () => {
  const { desk, take } = made(field({ strikeFrom: 'speed' }));
  desk.down(1, 'field', at(120, 250, 20), 0);
  expect(take()).toEqual([]);
  desk.move(1, at(120, 250, 40), 20);
  expect(take()).toEqual(['on 1 60 0.5']);
  desk.up(1, 30);
  desk.down(2, 'field', at(0, 250, 20), 40);
  desk.up(2, 45);
  expect(take()).toEqual(['off 1', 'on 2 48 0.79', 'off 2']);
  desk.down(3, 'field', at(0, 250, 20), 50);
  vi.advanceTimersByTime(25);
  expect(take()).toEqual(['on 3 48 0.79']);
});
