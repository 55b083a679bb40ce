import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { ControlOf, Frame } from '../../../core/rig/document';
import { moveWithin, resize, type Size } from '../../../core/surface/arrange';
import { usePlaying, PlayContext } from '../PlayContext';
import { Control } from './Control';
import { Shell } from './Shell';

const LEAST = 120;
/** Room for the bar at the top and the edge at the right, in pixels of the surface. */
const BAR = 40;
const CORNER = { x: 1, y: 1 } as const;

/** A finger that moves the panel, sizes or scrolls it: where it came down, and how all of it was then. */
interface Drag {
  pointer: number;
  x: number;
  y: number;
  panel: Frame;
  scrolled: number;
}

/**
 * A panel of more controls over the page: there while the control is held, or from one tap to the next. It is moved by its
 * bar, sized by its corner and scrolled by its edge, so that every finger on a control plays.
 */
export function FoldOut({ control }: { control: ControlOf<'fold'> }) {
  const playing = usePlaying();
  const { scale } = playing;
  const [open, setOpen] = useState(false);
  const [panel, setPanel] = useState<Frame>(control.panel);
  const [scrolled, setScrolled] = useState(0);
  const drag = useRef<Drag | null>(null);
  // Designed anew elsewhere, it lies where the design says.
  useEffect(() => setPanel(control.panel), [control.panel]);
  const lowest = Math.max(0, ...control.controls.map(({ frame }) => frame.y + frame.height + 12));
  const hidden = Math.max(0, lowest - (panel.height - BAR));
  const press = (event: PointerEvent<HTMLDivElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    // A finger on a panel that goes is not heard of any more.
    drag.current = null;
    setOpen(control.opens === 'hold' || !open);
  };
  const release = () => control.opens === 'hold' && setOpen(false);
  /** Follows one finger from where it came down; lengths in pixels of the surface. Not by `movementX`, which some browsers do not say of fingers. */
  const dragging = (by: (from: Drag, dx: number, dy: number, surface: Size) => void) => ({
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      event.stopPropagation();
      if (drag.current) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { pointer: event.pointerId, x: event.clientX, y: event.clientY, panel, scrolled };
    },
    onPointerMove: ({ currentTarget, pointerId, clientX, clientY }: PointerEvent<HTMLDivElement>) => {
      const from = drag.current;
      if (from?.pointer !== pointerId) return;
      const { clientWidth, clientHeight } = currentTarget.closest('.surface')!;
      by(from, (clientX - from.x) / scale, (clientY - from.y) / scale, { width: clientWidth / scale, height: clientHeight / scale });
    },
    onLostPointerCapture: ({ pointerId }: PointerEvent<HTMLDivElement>) => {
      if (drag.current?.pointer === pointerId) drag.current = null;
    },
  });
  const move = (from: Drag, dx: number, dy: number, surface: Size) => setPanel(moveWithin([from.panel], dx, dy, surface)[0]!);
  const size = (from: Drag, dx: number, dy: number, surface: Size) => {
    const sized = resize(from.panel, CORNER, dx, dy, surface);
    setPanel({ ...sized, width: Math.max(LEAST, sized.width), height: Math.max(LEAST, sized.height) });
  };
  const scroll = (from: Drag, _: number, dy: number) => setScrolled(Math.min(hidden, Math.max(0, from.scrolled + dy)));
  return (
    <>
      <Shell
        control={control}
        look="fold-out"
        role="button"
        tabIndex={0}
        aria-expanded={open}
        data-held={open}
        onPointerDown={press}
        onPointerUp={release}
        onPointerCancel={release}
        onLostPointerCapture={release}
        onKeyDown={({ key, repeat }) => !repeat && (key === 'Enter' || key === ' ') && setOpen(!open)}
      >
        <span className="corner" aria-hidden />
      </Shell>
      {open && (
        <div className="fold-panel" role="group" aria-label={`Panel of ${control.label || 'the fold-out'}`} style={{ left: panel.x * scale, top: panel.y * scale, width: panel.width * scale, height: panel.height * scale }}>
          <div className="fold-bar" style={{ height: BAR * scale }} {...dragging(move)}>
            {control.label || 'Panel'}
          </div>
          <div className="sheet" style={{ top: BAR * scale }}>
            <div style={{ transform: `translateY(${-Math.min(scrolled, hidden) * scale}px)` }}>
              <PlayContext value={playing}>
                {control.controls.map((child) => (
                  <Control key={child.id} control={child} />
                ))}
              </PlayContext>
            </div>
          </div>
          {hidden > 0 && (
            <div className="edge" style={{ top: BAR * scale }} {...dragging(scroll)}>
              <span style={{ top: `${(100 * Math.min(scrolled, hidden)) / lowest}%`, height: `${(100 * (panel.height - BAR)) / lowest}%` }} />
            </div>
          )}
          <div className="grip" {...dragging(size)} aria-hidden />
        </div>
      )}
    </>
  );
}
