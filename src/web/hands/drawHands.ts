import { FINGER_JOINTS, INDEX_TIP, PALM, WRIST } from '../../core/hands/landmarks';
import { BENCH } from '../theme/tokens';
import type { DrawnHand } from './messages';

const COLOURS = { left: BENCH.accent, right: BENCH.trouble } as const;
const NAMES = { left: 'left', right: 'right' } as const;
/** How thick a finger is, by the length of the palm. */
const FINGER = 0.17;

/** Draws hands over the picture that they were found in, as gloves one can look through; the tip that points is marked. */
export function drawHands(context: CanvasRenderingContext2D, hands: readonly DrawnHand[], box: { x: number; y: number; width: number; height: number }, mirrored: boolean): void {
  for (const { side, picture, gestures, pose } of hands) {
    const at = (joint: number) => {
      const x = picture[3 * joint]!;
      return { x: box.x + (mirrored ? 1 - x : x) * box.width, y: box.y + picture[3 * joint + 1]! * box.height };
    };
    const wrist = at(WRIST);
    const knuckle = at(FINGER_JOINTS.middle[0]);
    const palm = Math.max(12, Math.hypot(knuckle.x - wrist.x, knuckle.y - wrist.y));
    // One path for bones and palm, so that nothing shines through twice.
    const glove = new Path2D();
    for (const joints of Object.values(FINGER_JOINTS)) {
      glove.moveTo(at(joints[0]).x, at(joints[0]).y);
      for (const joint of joints.slice(1)) glove.lineTo(at(joint).x, at(joint).y);
    }
    const outline = [WRIST, FINGER_JOINTS.thumb[0], ...PALM.filter((joint) => joint !== WRIST)].map(at);
    // The palm is hatched by strokes as broad as a finger.
    for (const [i, corner] of outline.entries()) {
      const next = outline[(i + 1) % outline.length]!;
      for (let share = 0; share < 1; share += 0.04) {
        glove.moveTo(corner.x + (next.x - corner.x) * share, corner.y + (next.y - corner.y) * share);
        glove.lineTo((wrist.x + 2 * knuckle.x) / 3, (wrist.y + 2 * knuckle.y) / 3);
      }
    }
    context.globalAlpha = 0.62;
    context.strokeStyle = COLOURS[side];
    context.lineWidth = FINGER * palm;
    context.lineCap = context.lineJoin = 'round';
    context.stroke(glove);
    context.globalAlpha = 1;
    const tip = at(INDEX_TIP);
    context.strokeStyle = BENCH.ink;
    context.lineWidth = 2;
    context.beginPath();
    context.arc(tip.x, tip.y, FINGER * palm * 0.75, 0, 2 * Math.PI);
    context.stroke();
    label(context, [NAMES[side], ...gestures, ...(pose === null ? [] : [pose])].join(' · '), wrist.x, wrist.y + 0.35 * palm);
  }
}

function label(context: CanvasRenderingContext2D, words: string, x: number, y: number): void {
  context.font = "600 15px 'Atkinson Hyperlegible Next Variable', sans-serif";
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  const width = context.measureText(words).width + 16;
  context.fillStyle = BENCH.raised;
  context.fillRect(x - width / 2, y - 13, width, 26);
  context.fillStyle = BENCH.ink;
  context.fillText(words, x, y);
}
