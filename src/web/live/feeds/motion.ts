import { pitchDeg, rollDeg } from '../../../core/signal/tilt';
import { MOTION_SOURCES, ShakeGate } from '../../../core/inputs/motionSources';
import type { FeedLine } from './feedLine';

const DEVICE = 'motion';
const G = 9.80665;
/** Sensors that say nothing for so long, in a page that went out of view, shake no more. */
const SHAKEN_MS = 500;
/** Tilted by more than this, angle and gravity must agree on the direction. */
const SURELY_TILTED_DEG = 15;

/** Why the motion of this device cannot be had, in one sentence, or null where it can be asked for. */
export function motionObstacle(): string | null {
  if (!window.isSecureContext) return 'The browser gives motion to secure pages only: open Pumice on this device by its https address.';
  if (!('DeviceMotionEvent' in window)) return 'This browser knows no motion sensors: try another browser on a phone or tablet.';
  return null;
}

/** Asks for the sensors where the browser wants to be asked; must be called from a tap. One sentence where it was refused. */
export async function askForMotion(): Promise<string | null> {
  const asking = [DeviceMotionEvent, DeviceOrientationEvent] as unknown as { requestPermission?: () => Promise<'granted' | 'denied'> }[];
  for (const event of asking) {
    if (!event.requestPermission) continue;
    const answer = await event.requestPermission().catch(() => 'denied');
    if (answer !== 'granted') return 'The browser was not allowed to tell of the motion: reload this page and allow it, or allow it in the browser settings.';
  }
  return null;
}

/** Sends what the sensors of this device measure, in g, degrees and degrees a second. */
export class MotionReader {
  private readonly shake = new ShakeGate();
  private shaken = 0;
  private hasGravity = false;
  private beta: number | null = null;
  /** -1 on systems that count gravity the other way round than the W3C specification does. */
  private sign: 1 | -1 = 1;
  private speaks = false;
  private rest: ReturnType<typeof setTimeout> | undefined;

  /** @param onSpeaks told once that the sensors say anything at all; a device without sensors tells of a motion without numbers */
  constructor(
    private readonly line: FeedLine,
    private readonly onValue: (key: string, value: number) => void,
    private readonly onSpeaks: () => void,
  ) {}

  start(report: string, name: string): void {
    this.line.add(DEVICE, { kind: 'motion', report, name }, MOTION_SOURCES);
    addEventListener('devicemotion', this.moved);
    addEventListener('deviceorientation', this.turned);
  }

  stop(): void {
    removeEventListener('devicemotion', this.moved);
    removeEventListener('deviceorientation', this.turned);
    clearTimeout(this.rest);
    this.line.remove(DEVICE);
  }

  private readonly turned = ({ alpha, beta, gamma }: DeviceOrientationEvent): void => {
    this.beta = beta;
    // W3C Device Orientation: alpha grows to the left, a heading to the right.
    if (alpha !== null) this.send([['tilt heading', (360 - alpha) % 360]]);
    // Without an accelerometer the angles of the orientation are all there is.
    if (beta !== null && gamma !== null && !this.hasGravity) this.send([['tilt pitch', clampTilt(beta)], ['tilt roll', clampTilt(gamma)]]);
  };

  private readonly moved = ({ acceleration, accelerationIncludingGravity: gravity, rotationRate }: DeviceMotionEvent): void => {
    const values: [key: string, value: number | null | undefined][] = [];
    const swing = (['x', 'y', 'z'] as const).map((axis) => (acceleration?.[axis] ?? 0) / G);
    (['x', 'y', 'z'] as const).forEach((axis, i) => {
      if (acceleration?.[axis] !== null && acceleration?.[axis] !== undefined) values.push([`swing ${axis}`, swing[i]]);
      const whole = gravity?.[axis];
      if (whole !== null && whole !== undefined) values.push([`gravity ${axis}`, whole / G]);
    });
    if (typeof gravity?.x === 'number' && typeof gravity.y === 'number' && typeof gravity.z === 'number') {
      this.hasGravity = true;
      if (this.beta !== null && Math.abs(this.beta) > SURELY_TILTED_DEG) this.sign = this.beta > 0 === gravity.y > 0 ? 1 : -1;
      const [x, y, z] = [this.sign * gravity.x, this.sign * gravity.y, this.sign * gravity.z];
      values.push(['tilt pitch', pitchDeg(x, y, z)], ['tilt roll', clampTilt(rollDeg(x, y, z))]);
    }
    // W3C Device Motion: alpha turns about z, beta about x, gamma about y.
    values.push(['turn x', rotationRate?.beta], ['turn y', rotationRate?.gamma], ['turn z', rotationRate?.alpha]);
    const strength = this.shake.step(Math.hypot(...swing), performance.now());
    if (strength !== this.shaken) values.push(['shake', strength]);
    this.shaken = strength;
    clearTimeout(this.rest);
    if (strength > 0) this.rest = setTimeout(this.rested, SHAKEN_MS);
    this.send(values);
  };

  private readonly rested = (): void => {
    this.shaken = 0;
    this.send([['shake', 0]]);
  };

  private send(values: readonly [key: string, value: number | null | undefined][]): void {
    const known = values.flatMap(([key, value]) => (typeof value === 'number' && Number.isFinite(value) ? [{ key, value }] : []));
    if (known.length === 0) return;
    if (!this.speaks) this.onSpeaks();
    this.speaks = true;
    for (const { key, value } of known) this.onValue(key, value);
    this.line.send(DEVICE, known, performance.timeOrigin + performance.now());
  }
}

/** Overhead, where a tilt turns over, it stays at its end. */
const clampTilt = (deg: number) => Math.max(-90, Math.min(90, deg));
