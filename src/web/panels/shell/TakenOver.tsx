import { App } from 'antd';
import { useEffect, useState } from 'react';
import { laneKey, type TakenPointer } from '../../../core/gesture/takenPointer';
import { useFeeds } from '../../live/feeds/FeedsProvider';
import { isThisComputer } from '../../live/feeds/computer';
import type { PointerTaker } from '../../live/feeds/pointerTaker';
import { FONT } from '../../theme/tokens';
import type { Drawing } from '../../pictures/drawing';
import { useCanvas } from '../shared/useCanvas';
import styles from './TakenOver.module.css';
import { useRig } from './useRig';
import { TAKING_KEYS } from '../../../core/inputs/kinds/computer';

/** How the keys are called that can take the pointer over; by their place, for what is printed on them differs. */
export const TAKING_KEY_NAMES: Record<(typeof TAKING_KEYS)[number], string> = {
  Backquote: 'the key left of 1',
  IntlBackslash: 'the key left of Z',
  AltRight: 'right Alt',
  ControlRight: 'right Ctrl',
  ShiftRight: 'right Shift',
  F9: 'F9',
};

/** Over everything while the pointer is taken over: says so, and shows what it moves. */
export function TakenOver() {
  const { taker } = useFeeds();
  const { message } = App.useApp();
  const [pointer, setPointer] = useState<TakenPointer | null>(null);
  useEffect(() => {
    if (!taker) return;
    const ends = [taker.onChange(() => setPointer(taker.pointer)), taker.onProblem((problem) => void message.warning(problem))];
    return () => {
      ends.forEach((end) => end());
      setPointer(null);
    };
  }, [taker, message]);
  return taker && pointer ? <Taken taker={taker} pointer={pointer} /> : null;
}

function Taken({ taker, pointer }: { taker: PointerTaker; pointer: TakenPointer }) {
  const { document: rig } = useRig();
  const { as, lanes, how, key } = pointer.taking;
  const input = rig.inputs.find(isThisComputer);
  const names = Array.from({ length: lanes }, (_, lane) => rig.signals.find(({ source, input: of }) => source === laneKey(lane) && of === input?.id)?.name ?? `Lane ${lane + 1}`);
  const { ref, wake } = useCanvas((drawing) => (as === 'lanes' ? drawLanes(drawing, pointer, names) : drawField(drawing, pointer)));
  useEffect(() => taker.onMove(() => wake()), [taker, wake]);
  return (
    <section className={styles.taken} aria-label="The pointer is taken over">
      <p role="status" className={styles.said}>
        <strong>The pointer is taken over</strong>
        <span>{taker.byKey && key ? `Let go of ${TAKING_KEY_NAMES[key]}, or press Escape, to have it back.` : 'Press Escape to have it back.'}</span>
      </p>
      <canvas ref={ref} aria-hidden />
      <p>
        {as === 'lanes' ? 'Up and down moves a lane, sideways goes to the next; a button that is held keeps it.' : 'Across and up move x and y.'}
        {how === 'pickUp' && ' A value follows once the pointer met it.'}
      </p>
    </section>
  );
}

const GAP = 12;
const LABEL = 28;

function drawLanes({ context, width, height, palette }: Drawing, pointer: TakenPointer, names: readonly string[]): void {
  const { length: lanes } = names;
  const across = Math.min(160, (width - GAP * (lanes - 1)) / lanes);
  const left = (width - across * lanes - GAP * (lanes - 1)) / 2;
  const room = height - LABEL * 2;
  context.textAlign = 'center';
  context.font = `600 17px ${FONT}`;
  for (const [lane, name] of names.entries()) {
    const x = left + lane * (across + GAP);
    const key = laneKey(lane);
    const value = pointer.value(key);
    const current = pointer.lane === lane;
    context.fillStyle = palette.sunken;
    context.fillRect(x, LABEL, across, room);
    context.fillStyle = current && pointer.isInHand(key) ? palette.alive : palette.accent;
    context.fillRect(x, LABEL + room * (1 - value), across, room * value);
    if (current) {
      context.strokeStyle = palette.ink;
      context.lineWidth = 3;
      context.strokeRect(x + 1.5, LABEL + 1.5, across - 3, room - 3);
      if (!pointer.isInHand(key)) mark(context, palette.ink, x, LABEL + room * (1 - pointer.y), across);
    }
    context.fillStyle = palette.ink;
    context.fillText(`${Math.round(value * 100)} %`, x + across / 2, LABEL - 9, across);
    context.fillText(name, x + across / 2, height - 8, across);
  }
}

function drawField({ context, width, height, palette }: Drawing, pointer: TakenPointer): void {
  const side = Math.min(width, height) - LABEL;
  const left = (width - side) / 2;
  const x = left + side * pointer.value('pointer x');
  const y = side * (1 - pointer.value('pointer y'));
  context.fillStyle = palette.sunken;
  context.fillRect(left, 0, side, side);
  context.fillStyle = pointer.isInHand('pointer x') || pointer.isInHand('pointer y') ? palette.alive : palette.accent;
  context.fillRect(x - 2, 0, 4, side);
  context.fillRect(left, y - 2, side, 4);
  context.beginPath();
  context.arc(x, y, 14, 0, Math.PI * 2);
  context.fill();
  if (!pointer.isInHand('pointer x') || !pointer.isInHand('pointer y')) {
    context.strokeStyle = palette.ink;
    context.lineWidth = 3;
    context.beginPath();
    context.arc(left + side * pointer.x, side * (1 - pointer.y), 14, 0, Math.PI * 2);
    context.stroke();
  }
  context.textAlign = 'center';
  context.font = `600 17px ${FONT}`;
  context.fillStyle = palette.ink;
  context.fillText(`x ${Math.round(pointer.value('pointer x') * 100)} %   y ${Math.round(pointer.value('pointer y') * 100)} %`, width / 2, height - 6);
}

/** Where the pointer is that has not met the value yet. */
function mark(context: Drawing['context'], colour: string, x: number, y: number, across: number): void {
  context.fillStyle = colour;
  context.fillRect(x, y - 2, across, 4);
}
