import type { ShownVoice } from '../../protocol/voiceFrames';
import type { Drawing } from './drawing';

/** So long a picture of voices looks back. */
export const VOICES_MS = 4000;
/** At least so many semitones are shown, so that a vibrato does not fill the picture. */
const LEAST_SEMITONES = 12;
const MARGIN_SEMITONES = 2;
const THIN_PX = 1.5;
const THICK_PX = 7;
/** A voice whose last point is older than this has ended. */
const POINTS_MOST = 400;

interface Point {
  ms: number;
  pitch: number;
  pressure: number;
}

/** The voices of the last seconds: a line each, its height the pitch, its thickness the pressure. */
export class VoiceTrace {
  private lines: { voice: number; points: Point[]; sounds: boolean }[] = [];

  /** What sounds now. */
  push(nowMs: number, voices: readonly ShownVoice[]): void {
    for (const line of this.lines) {
      if (!line.sounds) continue;
      const still = voices.find(({ voice }) => voice === line.voice);
      const last = line.points.at(-1)!;
      if (!still) line.points.push({ ...last, ms: nowMs });
      line.sounds = still !== undefined;
    }
    for (const { voice, pitch, pressure } of voices) {
      const known = this.lines.find((line) => line.sounds && line.voice === voice);
      const point = { ms: nowMs, pitch, pressure };
      if (known) known.points.push(point);
      else this.lines.push({ voice, points: [point], sounds: true });
    }
    for (const line of this.lines) {
      while (line.points.length > 2 && (line.points[1]!.ms < nowMs - VOICES_MS || line.points.length > POINTS_MOST)) line.points.shift();
    }
    this.lines = this.lines.filter(({ points, sounds }) => sounds || points.at(-1)!.ms > nowMs - VOICES_MS);
  }

  draw({ context, width, height, palette, nowMs }: Drawing): void {
    context.fillStyle = palette.hairline;
    context.fillRect(0, height - 1, width, 1);
    const shown = this.lines.filter(({ points, sounds }) => sounds || points.at(-1)!.ms > nowMs - VOICES_MS);
    if (shown.length === 0) return;
    const pitches = shown.flatMap(({ points }) => points.map(({ pitch }) => pitch));
    const [lo, hi] = [Math.min(...pitches), Math.max(...pitches)];
    const around = Math.max(0, LEAST_SEMITONES - (hi - lo)) / 2 + MARGIN_SEMITONES;
    const y = (pitch: number) => height - ((pitch - lo + around) / (hi - lo + 2 * around)) * height;
    const x = (ms: number) => width - ((nowMs - ms) / VOICES_MS) * width;
    context.lineCap = 'round';
    for (const { points, sounds } of shown) {
      context.strokeStyle = sounds ? palette.accent : palette.quiet;
      const drawn = sounds ? [...points, { ...points.at(-1)!, ms: nowMs }] : points;
      for (let i = 1; i < drawn.length; i++) {
        const [from, to] = [drawn[i - 1]!, drawn[i]!];
        context.lineWidth = THIN_PX + THICK_PX * to.pressure;
        context.beginPath();
        context.moveTo(x(from.ms), y(from.pitch));
        context.lineTo(x(to.ms), y(to.pitch));
        context.stroke();
      }
      if (!sounds) continue;
      const end = drawn.at(-1)!;
      context.fillStyle = palette.alive;
      context.beginPath();
      context.arc(width - THICK_PX / 2, y(end.pitch), 2.5 + (THICK_PX / 2) * end.pressure, 0, 2 * Math.PI);
      context.fill();
    }
  }
}
