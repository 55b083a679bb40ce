import type { RigSignal } from '../../../core/rig/document';
import { calibrated, withoutNoise } from '../../../core/signal/calibration';
import type { CapturedSignal } from './useCapture';

/** What was captured raw, as the engine sees it. */
export function nominal({ calibration, range: [lo, hi], rest, period }: RigSignal, { values }: CapturedSignal): number[] {
  if (!calibration) return values;
  const planned = { ...calibration, lo, hi, rest: rest ?? null, period: period ?? null };
  let held = NaN;
  return values.map((value) => calibrated(planned, (held = withoutNoise(planned, value, held))));
}
