import type { SourceReport } from './feed';

type Axes = readonly [key: string, name: string][];
const XYZ: Axes = [['x', 'x'], ['y', 'y'], ['z', 'z']];

const each = (prefix: string, name: string, group: string, axes: Axes, rest: Pick<SourceReport, 'unit' | 'range' | 'rest' | 'period'>): SourceReport[] =>
  axes.map(([key, axis]) => ({ key: `${prefix} ${key}`, name: `${name} ${axis}`, kind: 'continuous', group, ...rest }));

/**
 * What a phone or tablet can tell of its movement (W3C Device Orientation and Motion): angles in degrees, acceleration in
 * g with and without gravity, turn rate in degrees a second, and a shake with its strength.
 */
export const MOTION_SOURCES: SourceReport[] = [
  { key: 'tilt pitch', name: 'Tilt forward', kind: 'continuous', unit: 'deg', range: [-90, 90], rest: 0, group: 'Tilt', pair: 'tilt roll' },
  { key: 'tilt roll', name: 'Tilt sideways', kind: 'continuous', unit: 'deg', range: [-90, 90], rest: 0, group: 'Tilt', pair: 'tilt pitch' },
  { key: 'tilt heading', name: 'Heading', kind: 'continuous', unit: 'deg', range: [0, 360], period: 360, group: 'Tilt' },
  ...each('swing', 'Swing', 'Without gravity', XYZ, { unit: 'g', range: [-2, 2], rest: 0 }),
  ...each('gravity', 'Acceleration', 'With gravity', XYZ, { unit: 'g', range: [-2, 2], rest: 0 }),
  ...each('turn', 'Turn rate', 'Turn', XYZ, { unit: 'deg/s', range: [-360, 360], rest: 0 }),
  { key: 'shake', name: 'Shake', kind: 'gate', unit: 'unit', range: [0, 1], group: 'Shake' },
];

/** Acceleration without gravity that counts as a shake, and the one that is as strong as it gets, in g. */
const SHAKE_G = 1.2;
const STRONGEST_G = 4;
/** It is over when it was quiet for so long. */
const QUIET_MS = 150;

/** A shake as a gate with strength, from the acceleration without gravity. */
export class ShakeGate {
  private strength = 0;
  private loudMs = -Infinity;

  /** @param swingG length of the acceleration without gravity, in g. @returns 0, or the strength up to 1 */
  step(swingG: number, timeMs: number): number {
    if (swingG >= SHAKE_G) {
      this.loudMs = timeMs;
      this.strength = Math.max(this.strength, Math.min(1, swingG / STRONGEST_G));
    } else if (timeMs - this.loudMs > QUIET_MS) this.strength = 0;
    return this.strength;
  }
}
