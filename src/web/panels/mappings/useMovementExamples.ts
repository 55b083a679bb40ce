import { useEffect } from 'react';
import type { MovementExample } from '../../../core/gesture/movement';
import { MovementTaker } from '../../../core/gesture/takeMovement';
import type { RigSignal } from '../../../core/rig/document';
import { useLatest } from '../../useLatest';
import { nominal } from '../shared/nominal';
import { useCapture } from '../shared/useCapture';

const LOOK_MS = 40;
/** So long without a number, and everything lies still: longer than numbers are late on a busy computer. */
const STILL_MS = 600;

/** Cuts what signals do into examples of a movement, while `on`. */
export function useMovementExamples(signals: readonly RigSignal[], on: boolean, onExample: (example: MovementExample | 'too long') => void): void {
  const { take } = useCapture(
    signals.map(({ id }) => id),
    on,
  );
  const latest = useLatest({ signals, onExample });
  useEffect(() => {
    if (!on) return;
    const taker = new MovementTaker();
    const seen = latest.current.signals.map(() => 0);
    const at = latest.current.signals.map(() => NaN);
    let lastMs = NaN;
    let heardMs = performance.now();
    const timer = setInterval(() => {
      const captured = take();
      const fresh = latest.current.signals.flatMap((signal, s) => {
        const one = captured.get(signal.id);
        if (!one) return [];
        const [lo, hi] = signal.range;
        // Calibration remembers what was before: all of it is reckoned anew, which is little.
        const values = nominal(signal, one).map((value) => (value - lo) / (hi - lo || 1));
        const from = seen[s]!;
        seen[s] = values.length;
        return values.slice(from).map((value, i) => ({ s, value, timeMs: one.timesMs[from + i]! }));
      });
      fresh.sort((a, b) => a.timeMs - b.timeMs);
      const tell = (example: MovementExample | 'too long' | null) => example && latest.current.onExample(example);
      fresh.forEach(({ s, value, timeMs }, i) => {
        at[s] = value;
        lastMs = timeMs;
        heardMs = performance.now();
        // What happened at one moment is one place.
        if (fresh[i + 1]?.timeMs !== timeMs && !at.some(Number.isNaN)) tell(taker.push(at, timeMs));
      });
      const stillMs = performance.now() - heardMs;
      if (stillMs > STILL_MS && !Number.isNaN(lastMs)) tell(taker.wait(lastMs + stillMs));
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [on, take, latest]);
}
