import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { OutputDesk } from './desk';
import { OutputTests } from './tests';

const clock = vi.hoisted(() => ({ nowMs: 1000 }));
vi.mock('../time', () => ({ hubTimeMs: () => clock.nowMs }));

const SCALE = [60, 62, 64, 65, 67, 69, 71, 72];
const sent: string[] = [];
const desk = { midi: (_output: string, _by: number, bytes: Uint8Array) => sent.push([...bytes].join(' ')), heldController: () => 12 } as unknown as OutputDesk;
const notes = (status: number) => sent.flatMap((line) => (line.startsWith(`${status} `) ? [Number(line.split(' ')[1])] : []));

beforeEach(() => {
  sent.length = 0;
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval'] });
});
afterEach(() => void vi.useRealTimers());

function pass(ms: number): void {
  for (let i = 0; i < ms; i += 20) {
    clock.nowMs += 20;
    vi.advanceTimersByTime(20);
  }
}

it('plays its scale in two seconds, each note ended before the next, and leaves the wheel as it was', () => {
  new OutputTests(desk).begin('weather', 3);
  pass(2060);
  expect(notes(0x92)).toEqual(SCALE);
  expect(sent.filter((line) => !line.startsWith(`${0xb2} `))).toEqual(SCALE.flatMap((note) => [`${0x92} ${note} 90`, `${0x82} ${note} 64`]));
  expect(sent.at(-1)).toBe(`${0xb2} 1 12`);
});

it('plays every note also where the hub stands still for longer than one', () => {
  new OutputTests(desk).begin('weather', 3);
  pass(600);
  clock.nowMs += 900;
  pass(2060);
  expect(notes(0x92)).toEqual(SCALE);
  expect(notes(0x82)).toEqual(SCALE);
});
