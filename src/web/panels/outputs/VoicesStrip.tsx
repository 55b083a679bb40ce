import { useEffect, useRef } from 'react';
import type { SoundingVoice } from '../../../core/instruments/voices';
import styles from './VoicesStrip.module.css';

/** From C1 to C8, in semitones; what lies beyond stands at its end. */
const LOWEST = 24;
const HIGHEST = 108;
const HEIGHT = 44;
const FOOT = 4;
const OCTAVE = 12;

/** What each voice does: where it is between the notes, and how strong. Always as high, so that nothing moves when one begins. */
export function VoicesStrip({ voices }: { voices: readonly SoundingVoice[] }) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current!;
    const { width } = canvas.getBoundingClientRect();
    const scale = window.devicePixelRatio;
    canvas.width = width * scale;
    canvas.height = HEIGHT * scale;
    const pen = canvas.getContext('2d')!;
    pen.scale(scale, scale);
    const colours = getComputedStyle(canvas);
    const place = (pitch: number) => 6 + ((Math.min(HIGHEST, Math.max(LOWEST, pitch)) - LOWEST) / (HIGHEST - LOWEST)) * (width - 12);
    pen.fillStyle = colours.getPropertyValue('--hairline');
    for (let note = LOWEST; note <= HIGHEST; note += OCTAVE) pen.fillRect(place(note), HEIGHT - FOOT - 6, 1, 6);
    pen.fillRect(0, HEIGHT - FOOT, width, 1);
    pen.fillStyle = colours.getPropertyValue('--alive');
    for (const { pitch, strength } of voices) {
      const top = HEIGHT - FOOT - 6 - strength * (HEIGHT - FOOT - 12);
      pen.fillRect(place(pitch) - 1.5, top, 3, HEIGHT - FOOT - top);
      pen.beginPath();
      pen.arc(place(pitch), top, 4.5, 0, 2 * Math.PI);
      pen.fill();
    }
  }, [voices]);
  const words = voices.map(({ nearest, cents }) => `${nearest}${cents === 0 ? '' : ` ${cents > 0 ? '+' : '−'}${Math.abs(cents)} cents`}`).join(', ');
  return (
    <figure className={styles.voices}>
      <canvas ref={ref} role="img" aria-label={voices.length === 0 ? 'No voice sounds' : `Voices: ${words}`} />
      <figcaption>{voices.length === 0 ? 'silent' : words}</figcaption>
    </figure>
  );
}
