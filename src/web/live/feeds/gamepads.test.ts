import { afterEach, expect, it, vi } from 'vitest';
import type { FeedLine } from './feedLine';
import { GamepadReader } from './gamepads';

/** A pad of one stick axis and one trigger, read at each look. */
function made() {
  const pad = { connected: true, index: 0, id: 'Tiller (vendor 1)', timestamp: 0, axes: [0], buttons: [{ value: 0 }] };
  let look = (): void => undefined;
  vi.useFakeTimers();
  vi.stubGlobal('navigator', { getGamepads: () => [pad] });
  vi.stubGlobal('document', { hidden: false, addEventListener: () => undefined, removeEventListener: () => undefined });
  vi.stubGlobal('requestAnimationFrame', (step: () => void) => (look = step));
  const sent: string[] = [];
  let up = true;
  const line = {
    add: () => undefined,
    remove: () => undefined,
    said: () => Promise.resolve(),
    send: (_: string, values: { key: string; value: number }[]) => up && sent.push(...values.map(({ key, value }) => `${key} ${value}`)) > 0,
  };
  new GamepadReader(line as unknown as FeedLine, () => undefined).start();
  vi.advanceTimersByTime(250);
  return {
    sent,
    line: (isUp: boolean) => (up = isUp),
    move(axis: number) {
      pad.axes = [axis];
      pad.timestamp++;
      look();
    },
  };
}

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it('says all of a pad first, then what changes', () => {
  const { sent, move } = made();
  expect(sent).toEqual(['axis 0 0', 'button 0 0']);
  move(0.5);
  expect(sent.slice(2)).toEqual(['axis 0 0.5']);
});

it('a stick that creeps is followed, though no step of it is larger than the unrest of a converter; one that trembles is not', () => {
  const { sent, move } = made();
  for (let i = 1; i <= 1000; i++) move(i / 10_000);
  expect(Math.abs(Number(sent.at(-1)!.split(' ')[2]) - 0.1)).toBeLessThan(1 / 4096);
  const said = sent.length;
  for (let i = 0; i < 100; i++) move(0.1 + (i % 2) / 10_000);
  expect(sent.length - said).toBeLessThanOrEqual(1);
});

it('reaches its ends and its middle exactly', () => {
  const { sent, move } = made();
  for (const value of [0.9999, 1, 0.0001, 0, -0.9999, -1]) move(value);
  expect(sent.slice(2)).toEqual(['axis 0 0.9999', 'axis 0 1', 'axis 0 0.0001', 'axis 0 0', 'axis 0 -0.9999', 'axis 0 -1']);
});

it('what could not be said is said once it can', () => {
  const { sent, move, line } = made();
  line(false);
  move(0.5);
  line(true);
  move(0.5);
  expect(sent.at(-1)).toBe('axis 0 0.5');
});
