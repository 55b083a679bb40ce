import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { FeedLine } from './feedLine';
import { MotionReader } from './motion';

type Listener = (event: object) => void;
const G = 9.80665;
const NOTHING = { x: null, y: null, z: null };

function made() {
  const listeners = new Map<string, Listener>();
  vi.stubGlobal('addEventListener', (name: string, listener: Listener) => void listeners.set(name, listener));
  vi.stubGlobal('removeEventListener', (name: string) => void listeners.delete(name));
  const sent: { key: string; value: number }[] = [];
  let spoke = 0;
  const line = { add: () => undefined, remove: () => undefined, send: (_: string, values: typeof sent) => void sent.push(...values) };
  const reader = new MotionReader(line as unknown as FeedLine, () => undefined, () => spoke++);
  reader.start('motion of device 1', 'Lantern');
  const swing = (x: number) => listeners.get('devicemotion')!({ acceleration: { x: x * G, y: 0, z: 0 }, accelerationIncludingGravity: NOTHING, rotationRate: null });
  const of = (key: string) => sent.filter((one) => one.key === key).map(({ value }) => value);
  return { reader, listeners, swing, of, sent, spoke: () => spoke };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

// W3C Device Orientation and Motion: a device that can never tell of motion fires one event whose attributes are all null.
it('takes an event without numbers for no sensors', () => {
  const { listeners, swing, sent, spoke } = made();
  listeners.get('devicemotion')!({ acceleration: NOTHING, accelerationIncludingGravity: NOTHING, rotationRate: { alpha: null, beta: null, gamma: null } });
  listeners.get('devicemotion')!({ acceleration: null, accelerationIncludingGravity: null, rotationRate: null });
  listeners.get('deviceorientation')!({ alpha: null, beta: null, gamma: null });
  expect(sent).toEqual([]);
  expect(spoke()).toBe(0);
  swing(0.5);
  swing(0.6);
  expect(spoke()).toBe(1);
});

// W3C Device Orientation: alpha grows as the device turns to the left; the heading of a device that lies flat is 360 - alpha.
it('says a heading that grows to the right, as a compass does', () => {
  const { listeners, of } = made();
  for (const alpha of [0, 90, 359]) listeners.get('deviceorientation')!({ alpha, beta: null, gamma: null });
  expect(of('tilt heading')).toEqual([0, 270, 1]);
});

it('ends a shake where the sensors fall silent in it, as those of a page that goes out of view do', () => {
  const { reader, swing, of } = made();
  swing(2);
  expect(of('shake')).toEqual([0.5]);
  vi.advanceTimersByTime(400);
  swing(2);
  vi.advanceTimersByTime(400);
  expect(of('shake')).toEqual([0.5]);
  vi.advanceTimersByTime(200);
  expect(of('shake')).toEqual([0.5, 0]);
  swing(3);
  reader.stop();
  vi.advanceTimersByTime(2000);
  expect(of('shake')).toEqual([0.5, 0, 0.75]);
});
