import { useEffect } from 'react';
import type { RigDerived, RigMapping, RigSignal } from '../../../core/rig/document';
import { rangeIn } from '../../../core/shaping/rangeIn';
import { rangeOut } from '../../../core/shaping/rangeOut';
import { useLive } from '../../live/LiveProvider';
import { useCanvas } from '../shared/useCanvas';

interface ShapingPictureProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
}

/** What a mapping makes of its signal: the signal's range across, the message's range up, and a dot where it is now. */
export function ShapingPicture({ mapping, signal }: ShapingPictureProps) {
  const live = useLive();
  const { ref, wake } = useCanvas(({ context, width, height, palette }) => {
    const [lo, hi] = signal.range;
    const { lo: inLo, hi: inHi } = mapping.shaping.rangeIn ?? { lo, hi };
    const x = (value: number) => 4 + rangeIn(value, lo, hi) * (width - 8);
    const y = (level: number) => height - 4 - outHeight(mapping, level) * (height - 8);
    context.strokeStyle = palette.hairline;
    context.lineWidth = 1;
    context.strokeRect(0.5, 0.5, width - 1, height - 1);
    context.strokeStyle = palette.accent;
    context.lineWidth = 1.75;
    context.beginPath();
    for (let i = 0; i <= 48; i++) context.lineTo(x(lo + (i / 48) * (hi - lo)), y(target(mapping, inLo, inHi, lo + (i / 48) * (hi - lo))));
    context.stroke();

    const value = live.signalValue(signal.id);
    const level = live.mappingLevel(mapping.id);
    if (value === undefined || level === undefined) return;
    const goal = target(mapping, inLo, inHi, value);
    const moving = Math.abs(goal - level) > 0.004;
    context.fillStyle = moving ? palette.alive : palette.ink;
    context.beginPath();
    context.arc(x(value), y(level), 4, 0, 2 * Math.PI);
    context.fill();
  });
  useEffect(() => {
    const removers = [live.onSignal(signal.id, () => wake()), live.onMapping(mapping.id, () => wake())];
    return () => removers.forEach((remove) => remove());
  }, [live, signal.id, mapping.id, wake]);
  return <canvas ref={ref} className="shaping-picture" aria-hidden />;
}

/** The level at which a value comes to rest. */
function target(mapping: RigMapping, inLo: number, inHi: number, value: number): number {
  const level = rangeIn(value, inLo, inHi);
  return mapping.message.kind === 'note' ? Number(level >= 0.5) : level;
}

function outHeight({ message }: RigMapping, level: number): number {
  return message.kind === 'controlChange' ? rangeOut(level, message.range[0], message.range[1]) / 127 : level;
}
