import type { CurveLane, NoteLane, ScoreLane } from './lanes';

/** A take so small that it fits beside its name: all from 0 to 1. */
export interface Sketch {
  /** Some of its notes: from, to, and how high. */
  notes: [from: number, to: number, height: number][];
  /** Its liveliest curve, at even distances; null where it says nothing yet. */
  curve: (number | null)[];
}

const NOTES_MOST = 160;
const COLUMNS = 72;

export function sketchOf(lanes: readonly ScoreLane[], lengthMs: number): Sketch {
  const share = (ms: number) => Math.round((1000 * Math.min(ms, lengthMs)) / Math.max(1, lengthMs)) / 1000;
  const noteLanes = lanes.filter((lane): lane is NoteLane => lane.kind === 'notes');
  const keys = noteLanes.flatMap(({ key }) => [key.reduce((a, b) => Math.min(a, b), 128), key.reduce((a, b) => Math.max(a, b), -1)]).filter((key) => key >= 0 && key < 128);
  const [lowest, highest] = [Math.min(...keys), Math.max(...keys)];
  const all = noteLanes.flatMap((lane) => Array.from(lane.key, (key, i): [number, number, number] => [share(lane.fromMs[i]!), share(lane.toMs[i]!), highest > lowest ? Math.round((100 * (key - lowest)) / (highest - lowest)) / 100 : 0.5]));
  const every = Math.ceil(all.length / NOTES_MOST) || 1;
  const curves = lanes.filter((lane): lane is CurveLane => lane.kind === 'curve' && lane.source.who !== 'voice');
  const liveliest = curves.reduce<CurveLane | null>((best, curve) => (best && best.value.length >= curve.value.length ? best : curve), null);
  return { notes: all.filter((_, i) => i % every === 0), curve: liveliest ? columnsOf(liveliest, lengthMs) : [] };
}

function columnsOf({ atMs, value, most }: CurveLane, lengthMs: number): (number | null)[] {
  let at = 0;
  let now: number | null = null;
  return Array.from({ length: COLUMNS }, (_, column) => {
    const untilMs = ((column + 1) * lengthMs) / COLUMNS;
    while (at < atMs.length && atMs[at]! <= untilMs) now = Math.round((100 * value[at++]!) / most) / 100;
    return now;
  });
}
