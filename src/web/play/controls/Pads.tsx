import { useRef, type RefObject } from 'react';
import { noteName } from '../../../core/midi/describe';
import type { ControlOf } from '../../../core/rig/document';
import { padFrame } from '../../../core/surface/cells';
import { padNote } from '../../../core/surface/voiceTouch';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { useVoices } from '../useVoices';
import { Shell } from './Shell';

/** A floor of slabs, each a gate of its own; one that is struck harder glows more. */
export function Pads({ control }: { control: ControlOf<'pads'> }) {
  const { desk } = usePlaying();
  const slabs = useRef<HTMLDivElement>(null);
  const { ref, ...handlers } = useControl(desk, control, (values) => glow(slabs, (cell) => values[`pad${cell + 1}`] ?? 0));
  return (
    <Shell ref={ref} {...handlers} control={control} look="pads" role="group" tabIndex={0}>
      <Floor control={control} slabs={slabs} nameOf={(cell) => String(cell + 1)} />
    </Shell>
  );
}

/** Slabs that are voices of one stream, a note each. */
export function VoicePads({ control }: { control: ControlOf<'pads'> }) {
  const slabs = useRef<HTMLDivElement>(null);
  const at = (cell: number) => {
    const { x, y, width, height } = padFrame(control.frame, control, cell);
    return { at: { x: x + width / 2, y: y + height - 1 }, size: 0 };
  };
  const { ref, ...handlers } = useVoices(
    control,
    (voices) => {
      const struck = new Map([...voices.values()].map(({ pitch, strike }) => [pitch, strike]));
      glow(slabs, (cell) => struck.get(padNote(control, cell)) ?? 0);
    },
    { count: control.columns * control.rows, at },
  );
  return (
    <Shell ref={ref} {...handlers} control={control} look="pads" role="group" tabIndex={0}>
      <Floor control={control} slabs={slabs} nameOf={(cell) => noteName(padNote(control, cell))} />
    </Shell>
  );
}

function glow(slabs: RefObject<HTMLDivElement | null>, strengthOf: (cell: number) => number): void {
  slabs.current!.childNodes.forEach((node, i) => {
    const slab = node as HTMLElement;
    const strength = strengthOf(i);
    slab.dataset.on = String(strength > 0);
    slab.style.setProperty('--strength', `${Math.round(40 + strength * 60)}%`);
  });
}

function Floor({ control, slabs, nameOf }: { control: ControlOf<'pads'>; slabs: RefObject<HTMLDivElement | null>; nameOf: (cell: number) => string }) {
  return (
    <div className="floor" ref={slabs} style={{ gridTemplate: `repeat(${control.rows}, 1fr) / repeat(${control.columns}, 1fr)` }}>
      {Array.from({ length: control.columns * control.rows }, (_, i) => (
        <div className="slab" key={i} data-cell data-strength={control.strength}>
          <span>{nameOf(i)}</span>
        </div>
      ))}
    </div>
  );
}
