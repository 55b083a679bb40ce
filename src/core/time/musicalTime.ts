/** Musical time as plain data: at `anchorMs` it is `anchorBeat`, and beats (quarter notes) go on from there at a tempo. */
export interface MusicalTime {
  anchorMs: number;
  anchorBeat: number;
  bpm: number;
}

export const MS_PER_MINUTE = 60_000;

export const msPerBeat = (bpm: number): number => MS_PER_MINUTE / bpm;

export function beatAt({ anchorMs, anchorBeat, bpm }: MusicalTime, timeMs: number): number {
  return anchorBeat + (timeMs - anchorMs) / msPerBeat(bpm);
}

export function msAt({ anchorMs, anchorBeat, bpm }: MusicalTime, beat: number): number {
  return anchorMs + (beat - anchorBeat) * msPerBeat(bpm);
}

/** At this time it is this beat, and so on from there. */
export function locate(time: MusicalTime, beat: number, timeMs: number): void {
  time.anchorMs = timeMs;
  time.anchorBeat = beat;
}

/** Another tempo from now on; the beat does not jump. */
export function changeTempo(time: MusicalTime, bpm: number, timeMs: number): void {
  locate(time, beatAt(time, timeMs), timeMs);
  time.bpm = bpm;
}

/**
 * Times so near to each other are one. Counted in ms since 1970 they are doubles that lie 1/4096 ms apart, so what is computed to a beat and back
 * may come out a little before itself.
 */
export const SAME_MS = 0.01;
/** The same in beats, and in steps of a grid, also of the shortest at the highest tempo. */
export const ON_IT = 1e-4;

/** The first multiple of `everyBeats` from a beat on. */
export function nextGrid(beat: number, everyBeats: number): number {
  // Not -0, which is less than 0 to some.
  return Math.ceil(beat / everyBeats - ON_IT) * everyBeats + 0;
}

/** How many beats a bar has. @param meter so many notes of such a length: [6, 8] are three beats */
export function beatsPerBar([many, unit]: readonly [many: number, unit: number]): number {
  return (many * 4) / unit;
}

/**
 * How much later than even a step of a grid comes, in steps: of each pair the first takes the share `swing` (1/2 straight, 2/3 the
 * long and short of triplets), so the second begins there.
 */
export function swingDelay(step: number, swing: number): number {
  return Math.abs(step) % 2 === 1 ? 2 * swing - 1 : 0;
}
