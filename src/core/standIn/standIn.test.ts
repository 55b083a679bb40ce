import { describe, expect, it } from 'vitest';
import { StreamParser } from '../midi/streamParser';
import { pitchDeg, rollDeg } from '../signal/tilt';
import { STAND_INS } from './index';
import { StandInPlayer } from './player';
import type { Reading, StandIn } from './standIn';

const called = (id: string): StandIn => STAND_INS.find((standIn) => standIn.id === id)!;

/** So many readings at its own rate. */
function readings(id: string, count: number, set: Partial<StandInPlayer['settings']> = {}, before?: (player: StandInPlayer) => void): Reading[][] {
  const player = new StandInPlayer(called(id), 7);
  Object.assign(player.settings, set);
  before?.(player);
  return Array.from({ length: count }, (_, i) => player.read((i * 1000) / player.settings.rateHz));
}

const still = { byItself: false, noise: 0, drift: 0, faults: 0 };
const value = (all: Reading[], key: string) => all.flatMap((reading) => (reading.way === 'source' && reading.key === key ? [reading.value] : []))[0];

describe.each(STAND_INS.map(({ id }) => id))('the stand-in %s', (id) => {
  it('gives the same readings again, and moves by itself', () => {
    expect(readings(id, 200)).toEqual(readings(id, 200));
    expect(new Set(readings(id, 200).map((reading) => JSON.stringify(reading))).size).toBeGreaterThan(5);
  });
  it('lies still in nobody\'s hand', () => {
    const [first, ...others] = readings(id, 20, still).slice(1);
    if (id !== 'lamps' && id !== 'mooring') for (const other of others) expect(other).toEqual(first);
  });
});

it('the lantern shows gravity as it is tilted (arithmetic of gravity)', () => {
  const [, reading] = readings('lantern', 2, still, (player) => {
    player.move('pitch', 20);
    player.move('roll', -35);
  });
  const [x, y, z] = ['x', 'y', 'z'].map((axis) => value(reading!, `gravity ${axis}`)!) as [number, number, number];
  expect(Math.hypot(x, y, z)).toBeCloseTo(1, 9);
  expect([pitchDeg(x, y, z), rollDeg(x, y, z)].map((deg) => Number(deg.toFixed(6)))).toEqual([20, -35]);
});

it('a jolt of the lantern is a shake with strength', () => {
  const all = readings('lantern', 3, still, (player) => player.move('jolt', 1));
  expect(value(all[2]!, 'shake')).toBeGreaterThan(0.7);
});

it('the distance sensors stay within 20-1000 mm but for their dropouts', () => {
  const all = readings('gangway', 2000, { faults: 0.1, noise: 0.05 }).flat().map((reading) => (reading.way === 'osc' ? reading.arguments[0]!.value : NaN));
  const dropouts = all.filter((mm) => mm === 1200).length;
  expect(all.every((mm) => (mm >= 20 && mm <= 1000) || mm === 1200)).toBe(true);
  expect(dropouts / all.length).toBeGreaterThan(0.08);
  expect(dropouts / all.length).toBeLessThan(0.12);
});

it('the keyboard ends every note it begins, in bytes that a parser reads without a fault', () => {
  let sounding = 0;
  let played = 0;
  const parser = new StreamParser((message) => {
    if (message.kind === 'noteOn') played++;
    if (message.kind === 'noteOn') sounding++;
    if (message.kind === 'noteOff') sounding--;
  });
  // Five seconds: the tenth beat has just been let go of.
  for (const reading of readings('harmonium', 498).flat()) if (reading.way === 'midi') parser.push(reading.bytes);
  expect([played, sounding, parser.faults]).toEqual([10, 0, { strayData: 0, undefinedStatus: 0, broken: 0 }]);
});

it('the left stick of the gamepad drifts, the buttons do not', () => {
  const all = readings('deck-hand', 4000, { byItself: false, noise: 0, drift: 0.1 });
  const stick = all.map((reading) => value(reading, 'axis 0')!);
  expect(Math.max(...stick) - Math.min(...stick)).toBeGreaterThan(0.1);
  expect(new Set(all.map((reading) => value(reading, 'button 3')))).toEqual(new Set([0]));
});
