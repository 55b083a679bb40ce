import { useRef } from 'react';
import { noteName } from '../../../core/midi/describe';
import type { ControlOf } from '../../../core/rig/document';
import type { VoicePlace } from '../../../core/surface/voiceTouch';
import { pitchAt } from '../../../core/surface/voiceTouch';
import { MODES } from '../../../core/voices/scale';
import { useVoices } from '../useVoices';
import { Shell } from './Shell';
import styles from './PitchField.module.css';

/** So many fingers are drawn. */
const FINGERS = 10;
const SEMITONES = 12;

/** Rows of gliding pitch with the pitches of a scale drawn across them; under each finger a glow that swells as it is pressed. */
export function PitchField({ control }: { control: ControlOf<'pitchField'> }) {
  const field = useRef<HTMLDivElement>(null);
  const glows = useRef<HTMLDivElement>(null);
  const { frame, rows } = control;
  const rowHeight = frame.height / rows;
  const draw = (voices: ReadonlyMap<number, VoicePlace>) => {
    const shown = [...voices.values()];
    glows.current!.childNodes.forEach((node, i) => {
      const glow = node as HTMLElement;
      const place = shown[i];
      glow.hidden = place === undefined;
      if (!place) return;
      const row = place.row ?? 0;
      glow.style.left = `${(100 * (place.pitch - pitchAt(control, row, frame.x))) / control.span}%`;
      glow.style.top = `${(100 * (rows - row - place.slide)) / rows}%`;
      glow.style.setProperty('--pressed', String(1 + place.pressure));
    });
  };
  const at = (cell: number) => {
    const guides = guidesOf(control, 0);
    return { at: { x: frame.x + (frame.width * (guides[cell]?.share ?? 50)) / 100, y: frame.y + frame.height - rowHeight / 2 }, size: 0 };
  };
  const { ref, ...handlers } = useVoices(control, draw, { count: guidesOf(control, 0).length, at });
  return (
    <Shell ref={ref} {...handlers} control={control} look={`pitch-field ${styles.field}`} role="group" tabIndex={0}>
      <div ref={field} className={styles.rows}>
        {Array.from({ length: rows }, (_, i) => rows - 1 - i).map((row) => (
          <div key={row} className={styles.row}>
            {guidesOf(control, row).map(({ pitch, share, isRoot }) => (
              <i key={pitch} className={styles.guide} data-root={isRoot} data-cell={row === 0 ? true : undefined} style={{ left: `${share}%` }}>
                {isRoot && <span>{noteName(pitch)}</span>}
              </i>
            ))}
          </div>
        ))}
      </div>
      <div ref={glows} className={styles.glows} aria-hidden>
        {Array.from({ length: FINGERS }, (_, i) => (
          <b key={i} className={styles.glow} hidden />
        ))}
      </div>
    </Shell>
  );
}

/** The pitches of the scale that lie on a row, with their places across it in hundredths. */
function guidesOf({ low, span, interval, guides }: ControlOf<'pitchField'>, row: number): { pitch: number; share: number; isRoot: boolean }[] {
  if (!guides) return [];
  const from = low + row * interval;
  const steps: readonly number[] = MODES[guides.mode];
  return Array.from({ length: Math.floor(span) + 1 }, (_, i) => Math.ceil(from) + i)
    .filter((pitch) => pitch <= from + span && steps.includes((((pitch - guides.root) % SEMITONES) + SEMITONES) % SEMITONES))
    .map((pitch) => ({ pitch, share: (100 * (pitch - from)) / span, isRoot: (pitch - guides.root) % SEMITONES === 0 }));
}
