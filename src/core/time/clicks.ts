import { beatAt, beatsPerBar, msAt, type MusicalTime } from './musicalTime';

/** A click of a metronome. */
export interface Click {
  atMs: number;
  /** Whether a bar begins with it. */
  isBar: boolean;
}

/** So little before a click counts as on it. */
const ON_IT = 1e-6;

/**
 * The clicks at or after one time and before another: one for each unit of the meter, which counts from beat 0 (6/8 clicks on its
 * eighths). Those of a count-in lie before beat 0.
 */
export function clicksBetween(time: MusicalTime, meter: readonly [many: number, unit: number], fromMs: number, beforeMs: number): Click[] {
  const [many] = meter;
  const unitBeats = beatsPerBar(meter) / many;
  const clicks: Click[] = [];
  for (let i = Math.ceil(beatAt(time, fromMs) / unitBeats - ON_IT); msAt(time, i * unitBeats) < beforeMs; i++) clicks.push({ atMs: msAt(time, i * unitBeats), isBar: i % many === 0 });
  return clicks;
}
