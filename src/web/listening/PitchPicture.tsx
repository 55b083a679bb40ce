import { useEffect, useRef } from 'react';
import { noteName } from '../../core/midi/describe';
import { pitchOfHz } from '../../core/voices/pitch';
import { HOP_MS } from '../../core/listening/audio';
import { addCanvasPainter } from '../live/painter';
import { BENCH, FONT } from '../theme/tokens';
import type { HeardNow } from './messages';

/** So much of the past is shown. */
const SHOWN_MS = 5000;
const POINTS = Math.ceil(SHOWN_MS / HOP_MS);
/** So many semitones are seen at once, and the view follows what is sung this slowly. */
const LANES = 25;
const FOLLOW = 0.04;
const NAMES_PX = 44;
const BLACK = [1, 3, 6, 8, 10];

/** What was sung, as a line over the lanes of the notes; what was taken as a note is filled, so that it is seen what was not. */
export class PitchTrace {
  readonly sung = new Float32Array(POINTS).fill(NaN);
  readonly notes = new Float32Array(POINTS).fill(NaN);
  middle = 57;
  /** Told when there is more to draw. */
  onMore: () => void = () => undefined;

  add({ trace, note, hz }: HeardNow): void {
    const { sung, notes } = this;
    sung.copyWithin(0, trace.length);
    notes.copyWithin(0, trace.length);
    trace.forEach((its, i) => {
      sung[POINTS - trace.length + i] = Number.isNaN(its) ? NaN : pitchOfHz(its);
      notes[POINTS - trace.length + i] = note;
    });
    if (hz > 0) this.middle += FOLLOW * (pitchOfHz(hz) - this.middle);
    this.onMore();
  }

  draw(canvas: HTMLCanvasElement): void {
    const context = canvas.getContext('2d')!;
    const [width, height] = [canvas.clientWidth, canvas.clientHeight];
    const scale = devicePixelRatio;
    if (canvas.width !== Math.round(width * scale) || canvas.height !== Math.round(height * scale)) Object.assign(canvas, { width: Math.round(width * scale), height: Math.round(height * scale) });
    context.setTransform(scale, 0, 0, scale, 0, 0);
    context.fillStyle = BENCH.raised;
    context.fillRect(0, 0, width, height);
    const lane = height / LANES;
    const lowest = this.middle - LANES / 2;
    const y = (pitch: number) => height - (pitch - lowest) * lane;
    context.font = `12px ${FONT}`;
    context.textBaseline = 'middle';
    for (let key = Math.floor(lowest); key <= lowest + LANES + 1; key++) {
      if (BLACK.includes(((key % 12) + 12) % 12)) {
        context.fillStyle = BENCH.sunken;
        context.fillRect(NAMES_PX, y(key + 0.5), width - NAMES_PX, lane);
      }
      context.fillStyle = key % 12 === 0 ? BENCH.ink : BENCH.quiet;
      if (lane >= 13 || key % 12 === 0) context.fillText(noteName(key), 8, y(key));
    }
    const x = (i: number) => NAMES_PX + ((width - NAMES_PX) * i) / POINTS;
    // What became a note lies beneath as a broad band.
    context.fillStyle = 'rgba(43, 106, 140, 0.28)';
    for (let from = 0, to = 0; from < POINTS; from = to) {
      const note = this.notes[from]!;
      // In pieces that keep their height to a pixel: not one for each of a thousand points.
      for (to = from + 1; to < POINTS && Math.abs(this.notes[to]! - note) * lane < 1; ) to++;
      if (!Number.isNaN(note)) context.fillRect(x(from), y(note) - lane / 2, x(to) - x(from), lane);
    }
    context.strokeStyle = BENCH.ink;
    context.lineWidth = 2;
    context.beginPath();
    let isDown = false;
    for (let i = 0; i < POINTS; i++) {
      const pitch = this.sung[i]!;
      if (Number.isNaN(pitch)) isDown = false;
      else if (isDown) context.lineTo(x(i), y(pitch));
      else context.moveTo(x(i), y(pitch));
      isDown = !Number.isNaN(pitch);
    }
    context.stroke();
  }
}

export function PitchPicture({ trace, className }: { trace: PitchTrace; className: string | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const on = canvas.current!;
    const painter = addCanvasPainter(on, () => trace.draw(on));
    trace.onMore = () => painter.wake();
    return () => {
      trace.onMore = () => undefined;
      painter.remove();
    };
  }, [trace]);
  return <canvas ref={canvas} className={className} role="img" aria-label="What is sung: a line over the notes, and what was taken as one" />;
}
