import { useEffect, useState, type PointerEvent } from 'react';
import type { ControlOf, Frame } from '../../../core/rig/document';
import { usePlaying, PlayContext } from '../PlayContext';
import { Control } from './Control';
import { Shell } from './Shell';

const LEAST = 120;
/** Room for the bar at the top and the edge at the right, in pixels of the surface. */
const BAR = 40;

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
  // Designed anew elsewhere, it lies where the design says.
  useEffect(() => setPanel(control.panel), [control.panel]);
  const lowest = Math.max(0, ...control.controls.map(({ frame }) => frame.y + frame.height + 12));
  const hidden = Math.max(0, lowest - (panel.height - BAR));
  const press = (event: PointerEvent<HTMLDivElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    setOpen(control.opens === 'hold' || !open);
  };
  const release = () => control.opens === 'hold' && setOpen(false);
  /** Follows a finger from where it came down; lengths in pixels of the surface. */
  const dragging = (by: (dx: number, dy: number) => void) => ({
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => event.currentTarget.hasPointerCapture(event.pointerId) && by(event.movementX / scale, event.movementY / scale),
  });
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
          <div className="fold-bar" style={{ height: BAR * scale }} {...dragging((dx, dy) => setPanel((before) => ({ ...before, x: before.x + dx, y: before.y + dy })))}>
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
            <div className="edge" style={{ top: BAR * scale }} {...dragging((_, dy) => setScrolled((before) => Math.min(hidden, Math.max(0, before + dy))))}>
              <span style={{ top: `${(100 * Math.min(scrolled, hidden)) / lowest}%`, height: `${(100 * (panel.height - BAR)) / lowest}%` }} />
            </div>
          )}
          <div className="grip" {...dragging((dx, dy) => setPanel((before) => ({ ...before, width: Math.max(LEAST, before.width + dx), height: Math.max(LEAST, before.height + dy) })))} aria-hidden />
        </div>
      )}
    </>
  );
}
