import type { Shaping } from '../rig/document';
import { monotoneSegments, SEGMENT } from '../shaping/curve';
import { FADE } from '../shaping/window';
import type { PlannedMapping } from './planMapping';

/** The kinds of each shaping step, as small numbers for the step function. */
export const DEAD = { none: 0, centre: 1, round: 2, ends: 3 } as const;
export const SMOOTH = { none: 0, onePole: 1, attackRelease: 2, oneEuro: 3, slew: 4 } as const;
export const CURVE = { linear: 0, power: 1, s: 2, points: 3, stepped: 4 } as const;

export function deadZoneOf({ deadZone }: Shaping, paired: boolean): Pick<PlannedMapping, 'dead' | 'deadA' | 'deadB'> {
  switch (deadZone?.kind) {
    case undefined:
      return { dead: DEAD.none, deadA: 0, deadB: 0 };
    case 'centre':
      return { dead: paired ? DEAD.round : DEAD.centre, deadA: deadZone.inner, deadB: deadZone.outer };
    case 'ends':
      return { dead: DEAD.ends, deadA: deadZone.low, deadB: deadZone.high };
    default:
      return deadZone satisfies never;
  }
}

export function smoothingOf({ smoothing }: Shaping): Pick<PlannedMapping, 'smooth' | 'smoothA' | 'smoothB' | 'smoothC'> {
  const planned = (smooth: number, smoothA = 0, smoothB = 0, smoothC = 0) => ({ smooth, smoothA, smoothB, smoothC });
  switch (smoothing?.kind) {
    case undefined:
      return planned(SMOOTH.none);
    case 'onePole':
      return planned(SMOOTH.onePole, smoothing.timeConstantMs);
    case 'attackRelease':
      return planned(SMOOTH.attackRelease, smoothing.attackMs, smoothing.releaseMs);
    case 'oneEuro':
      return planned(SMOOTH.oneEuro, smoothing.minCutoffHz, smoothing.beta, smoothing.derivativeCutoffHz);
    case 'slew':
      return planned(SMOOTH.slew, smoothing.perS);
    default:
      return smoothing satisfies never;
  }
}

export function curveOf({ curve }: Shaping, curves: number[], from: number): Pick<PlannedMapping, 'curve' | 'curveA' | 'curveAt' | 'curveCount'> {
  const at = from + curves.length;
  switch (curve?.kind) {
    case undefined:
      return { curve: CURVE.linear, curveA: 1, curveAt: at, curveCount: 0 };
    case 'power':
      return { curve: CURVE.power, curveA: 2 ** curve.k, curveAt: at, curveCount: 0 };
    case 's':
      return { curve: CURVE.s, curveA: 2 ** (2 * curve.amount), curveAt: at, curveCount: 0 };
    case 'points': {
      const coefficients = new Float64Array((curve.points.length - 1) * SEGMENT);
      monotoneSegments(curve.points, coefficients, 0);
      curves.push(...coefficients);
      return { curve: CURVE.points, curveA: 1, curveAt: at, curveCount: curve.points.length - 1 };
    }
    case 'stepped':
      curves.push(...curve.points.flat());
      return { curve: CURVE.stepped, curveA: 1, curveAt: at, curveCount: curve.points.length };
    default:
      return curve satisfies never;
  }
}

export function fadeOf({ window }: Shaping): number {
  if (!window?.fade) return FADE.none;
  const { law, direction } = window.fade;
  if (law === 'linear') return direction === 'in' ? FADE.linearIn : FADE.linearOut;
  return direction === 'in' ? FADE.equalPowerIn : FADE.equalPowerOut;
}
