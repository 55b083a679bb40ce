import { USUAL_POINTS } from '../signal/points';
import type { Knob, Reading, StandIn } from './standIn';

const floats = (address: string, ...values: number[]): Reading => ({ way: 'osc', address, arguments: values.map((value) => ({ type: 'f', value })) });

/** A rope with a stretch sensor, a grip and an accelerometer, behind a microcontroller that speaks OSC. */
export const mooring: StandIn = {
  id: 'mooring',
  name: 'Mooring',
  about: 'Rope sensor: stretch, grip, three accelerations, over OSC',
  feed: { kind: 'osc', report: 'mooring', name: 'Mooring' },
  sources: [],
  knobs: [
    { key: 'stretch', name: 'Stretch', kind: 'continuous', range: [0, 1], rest: 0 },
    { key: 'grip', name: 'Grip', kind: 'continuous', range: [0, 1], rest: 0 },
    { key: 'pull', name: 'Pull', kind: 'continuous', range: [-1, 1], rest: 0 },
  ],
  defaults: { byItself: true, noise: 0.004, drift: 0.01, rateHz: 100, faults: 0 },
  play: (timeS) => [0.5 + 0.45 * Math.sin(timeS * 0.9), timeS % 5 < 2.5 ? 0.5 - 0.5 * Math.cos((timeS % 5) * 2.5) : 0, 0.6 * Math.sin(timeS * 2.2)],
  specimen: () => ({
    read({ knobs: [stretch = 0, grip = 0, pull = 0], settings, random, timeMs }) {
      // A loose wire: the stretch reading jumps to its end, as such sensors do.
      const read = random() < settings.faults ? 1 : stretch;
      return [floats('/mooring/stretch', read), floats('/mooring/grip', grip), floats('/mooring/acceleration', pull, 0.1 * Math.sin(timeMs / 310), 1)];
    },
  }),
};

const DISTANCES = 4;
const NEAREST_MM = 20;
const FARTHEST_MM = 1000;

/** Four distance sensors along the gangway that now and then see nothing. */
export const gangway: StandIn = {
  id: 'gangway',
  name: 'Gangway',
  about: 'Four distance sensors, 20-1000 mm, with dropouts, over OSC',
  feed: { kind: 'osc', report: 'gangway', name: 'Gangway' },
  sources: [],
  knobs: Array.from({ length: DISTANCES }, (_, i): Knob => ({ key: `distance ${i + 1}`, name: `Distance ${i + 1}`, kind: 'continuous', range: [NEAREST_MM, FARTHEST_MM], rest: FARTHEST_MM })),
  defaults: { byItself: true, noise: 0.004, drift: 0, rateHz: 40, faults: 0.02 },
  play: (timeS) => Array.from({ length: DISTANCES }, (_, i) => 510 + 480 * Math.sin(timeS * 0.8 - i * 0.7)),
  specimen: () => ({
    read({ knobs, settings, random }) {
      // Nothing in view: such sensors say their farthest distance and a bit.
      return knobs.map((distance, i) => floats(`/gangway/distance/${i + 1}`, random() < settings.faults ? FARTHEST_MM + 200 : distance));
    },
  }),
};

/** Four lamps seen by a camera: they flicker, and come in any order. */
export const lamps: StandIn = {
  id: 'lamps',
  name: 'Lamps',
  about: 'Four flickering points of light, over OSC',
  feed: { kind: 'osc', report: 'lamps', name: 'Lamps' },
  sources: [],
  knobs: Array.from({ length: USUAL_POINTS }, (_, i): Knob[] => [
    { key: `x ${i + 1}`, name: `Lamp ${i + 1} across`, kind: 'continuous', range: [0, 1], rest: (i + 0.5) / USUAL_POINTS },
    { key: `y ${i + 1}`, name: `Lamp ${i + 1} up`, kind: 'continuous', range: [0, 1], rest: 0.5 },
  ]).flat(),
  defaults: { byItself: true, noise: 0.002, drift: 0, rateHz: 50, faults: 0.03 },
  play: (timeS) =>
    Array.from({ length: USUAL_POINTS }, (_, i) => [(i + 0.5) / USUAL_POINTS + 0.1 * Math.sin(timeS * (0.5 + i * 0.2)), 0.5 + 0.35 * Math.sin(timeS * (0.9 - i * 0.15) + i)]).flat(),
  specimen: () => ({
    read({ knobs, settings, random }) {
      const seen = Array.from({ length: USUAL_POINTS }, (_, i) => [knobs[2 * i]!, knobs[2 * i + 1]!, 0.03 + 0.02 * random()]).filter(() => random() >= settings.faults);
      const first = Math.floor(random() * seen.length);
      return [floats('/lamps/points', ...[...seen.slice(first), ...seen.slice(0, first)].flat())];
    },
  }),
};
