import { useEffect, type PointerEvent } from 'react';
import { addressOf, type ScoreLane } from '../../../core/takes/lanes';
import { useCanvas } from '../shared/useCanvas';
import { drawCurve, drawNotes, spanOf } from './drawLane';
import type { SignalLane } from './takeMessages';
import styles from './takes.module.css';
import type { TimeView } from './timeView';
import { atPointer } from './underPointer';

/** A row of the picture. */
export interface ShownLane {
  key: string;
  name: string;
  /** Its output, or what it is. */
  of: string;
  /** What can be muted; null for a signal. */
  line: string | null;
  lane: ScoreLane | SignalLane;
  /** How it was in the version beneath, or before it was tidied: the same lane where it is drawn alone, null where it was not there. */
  before: ScoreLane | null | 'same';
  /** Whether it is only there before. */
  isGone: boolean;
  /** Of a signal. */
  range: readonly [number, number] | null;
}

export const laneKey = (lane: ScoreLane): string => `${lane.source.output} ${lane.source.who} ${lane.source.mapping} ${lane.kind === 'curve' ? `${lane.status} ${lane.channel} ${lane.number}` : 'notes'}`;

/** A line of music within so many semitones needs no height. */
const FLAT = 9;

interface LaneRowProps {
  row: ShownLane;
  view: TimeView;
  isMuted: boolean;
  onMute: () => void;
  onAlone: () => void;
  onWords: (words: string) => void;
}

/** One line of music, address or signal. What was there before is drawn pale beneath. */
export function LaneRow({ row, view, isMuted, onMute, onAlone, onWords }: LaneRowProps) {
  const { lane, before, isGone } = row;
  const span = lane.kind === 'notes' ? spanOf(lane) : lane.kind === 'signal' ? (row.range ?? [0, 1]) : ([0, lane.most] as const);
  const { ref, wake } = useCanvas((drawing) => {
    const { palette, width } = drawing;
    const draw = (of: ScoreLane | SignalLane, colour: string) => (of.kind === 'notes' ? drawNotes(drawing, of, span as [number, number], view, colour, width) : drawCurve(drawing, of, span as [number, number], view, colour));
    const ink = isMuted ? palette.hairline : palette.ink;
    if (before !== null && before !== 'same') draw(before, palette.hairline);
    if (isGone) return;
    draw(lane, before === 'same' || isMuted ? ink : palette.accent);
  });
  useEffect(() => view.listen(() => wake()), [view, wake]);
  const point = (event: PointerEvent<HTMLCanvasElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onWords(`${row.name} · ${isGone ? 'gone · ' : ''}${atPointer(lane, view.timeAt(event.clientX - box.left), span[1] - ((event.clientY - box.top) / box.height) * (span[1] - span[0]))}`);
  };
  return (
    <li className={styles.row} data-kind={lane.kind} data-muted={isMuted} data-flat={span[1] - span[0] <= FLAT} aria-label={`${row.name}, ${row.of}`}>
      <div>
        <strong>{row.name}</strong>
        <small>
          {row.of}
          {lane.kind === 'curve' && `, ${addressOf(lane)}`}
        </small>
        {row.line !== null && lane.kind !== 'signal' && (
          <span>
            <button type="button" aria-pressed={isMuted} onClick={onMute}>
              mute
            </button>
            <button type="button" onClick={onAlone}>
              alone
            </button>
          </span>
        )}
      </div>
      <canvas ref={ref} onPointerMove={point} onPointerLeave={() => onWords('')} aria-hidden />
    </li>
  );
}
