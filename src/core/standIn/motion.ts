import { MOTION_SOURCES, ShakeGate } from '../inputs/motionSources';
import { periodicDifference } from '../signal/period';
import type { Reading, StandIn } from './standIn';

const RADIANS = Math.PI / 180;

/**
 * A phone that swings like a lantern on its hook. The knobs are its angles and a jolt; what a phone would measure follows
 * from them: gravity in the axes of the device, turn rates, acceleration with and without gravity.
 */
export const lantern: StandIn = {
  id: 'lantern',
  name: 'Lantern',
  about: 'Phone that swings, with gravity',
  feed: { kind: 'motion', report: 'stand-in motion', name: 'Lantern' },
  sources: MOTION_SOURCES,
  knobs: [
    { key: 'pitch', name: 'Tilt forward', kind: 'continuous', range: [-90, 90], rest: 0 },
    { key: 'roll', name: 'Tilt sideways', kind: 'continuous', range: [-90, 90], rest: 0 },
    { key: 'heading', name: 'Heading', kind: 'continuous', range: [0, 360], rest: 180 },
    { key: 'jolt', name: 'Jolt', kind: 'gate', range: [0, 1], rest: 0 },
  ],
  defaults: { byItself: true, noise: 0.002, drift: 0.005, rateHz: 60, faults: 0 },
  play: (timeS) => [35 * Math.sin(timeS * 1.9), 20 * Math.sin(timeS * 1.3 + 1), 180 + 30 * Math.sin(timeS * 0.2), timeS % 6 < 0.12 ? 1 : 0],
  specimen() {
    const shake = new ShakeGate();
    let before: [pitch: number, roll: number, heading: number] | null = null;
    return {
      read({ timeMs, dtMs, knobs, settings, random }): Reading[] {
        if (random() < settings.faults) return [];
        const [pitch = 0, roll = 0, heading = 0, jolt = 0] = knobs;
        const perS = 1000 / Math.max(1, dtMs);
        const [p, r, h] = before ?? [pitch, roll, heading];
        before = [pitch, roll, heading];
        const swing = jolt > 0 ? [2.5 * (random() - 0.5), 2.5 * (random() - 0.5), 3] : [0, 0, 0];
        const cosPitch = Math.cos(pitch * RADIANS);
        const gravity = [cosPitch * Math.sin(roll * RADIANS), Math.sin(pitch * RADIANS), cosPitch * Math.cos(roll * RADIANS)];
        const values: Record<string, number> = {
          'tilt pitch': pitch,
          'tilt roll': roll,
          'tilt heading': heading,
          'turn x': (pitch - p) * perS,
          'turn y': (roll - r) * perS,
          // About an axis that points upwards: to the left, where a heading grows to the right.
          'turn z': -periodicDifference(heading, h, 360) * perS,
          shake: shake.step(Math.hypot(...swing), timeMs),
        };
        ['x', 'y', 'z'].forEach((axis, i) => {
          values[`swing ${axis}`] = swing[i]!;
          values[`gravity ${axis}`] = gravity[i]! + swing[i]!;
        });
        return Object.entries(values).map(([key, value]) => ({ way: 'source', key, value }));
      },
    };
  },
};
