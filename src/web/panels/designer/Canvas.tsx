import { useDroppable } from '@dnd-kit/core';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Frame, RigControl, RigSurface } from '../../../core/rig/document';
import { bounds, guidesOf, moveWithin, resize, snap, touches, type Guide, type Handle, type Size } from '../../../core/surface/arrange';
import { calledBy } from '../../../core/surface/make';
import { letterOf } from '../../live/keys';
import type { Playing } from '../../play/PlayContext';
import { Sheet } from '../../play/Sheet';
import { useDragged } from '../shared/useDragged';
import type { DesignerDesk } from './useDesigner';
import designer from './Designer.module.css';
import styles from './Canvas.module.css';

/** How near a line must be to be snapped to, in pixels of the window. */
const REACH = 6;
/** A press that moves less than this is a click. */
const SLOP = 3;
const NUDGE = 1;
const NUDGE_FAR = 10;

const HANDLES: readonly (Handle & { name: string })[] = [
  { x: -1, y: -1, name: 'nw' },
  { x: 0, y: -1, name: 'n' },
  { x: 1, y: -1, name: 'ne' },
  { x: 1, y: 0, name: 'e' },
  { x: 1, y: 1, name: 'se' },
  { x: 0, y: 1, name: 's' },
  { x: -1, y: 1, name: 'sw' },
  { x: -1, y: 0, name: 'w' },
];

interface CanvasProps {
  desk: DesignerDesk;
  playing: Playing;
  palette: RigSurface['palette'];
  artboard: Size;
  onOpenFold: (id: string) => void;
}

/** A press that became a drag: of what, from where. */
type Drag = { kind: 'marquee'; x: number; y: number } | { kind: 'move'; x: number; y: number; pressed: string } | { kind: 'size'; x: number; y: number; handle: Handle };

/** Where controls are marked, moved and sized, by pointer and by keys. */
export function Canvas({ desk, playing, palette, artboard, onOpenFold }: CanvasProps) {
  const { scale } = playing;
  const { controls, chosen, marked, mark, stage } = desk;
  const element = useRef<HTMLDivElement>(null);
  const drag = useRef<Drag | null>(null);
  const draft = useDragged<ReadonlyMap<string, Frame>>(NOTHING);
  const [guides, setGuides] = useState<readonly Guide[]>([]);
  const marquee = useDragged<Frame | null>(null);
  const { setNodeRef } = useDroppable({ id: 'canvas' });
  const shown = useMemo(() => controls.map((control) => (draft.shown.has(control.id) ? ({ ...control, frame: draft.shown.get(control.id)! } as RigControl) : control)), [controls, draft.shown]);
  const outlined = shown.filter(({ id }) => marked.includes(id));
  const around = bounds(outlined.map(({ frame }) => frame));

  const at = (event: { clientX: number; clientY: number }) => {
    const box = element.current!.getBoundingClientRect();
    return { x: (event.clientX - box.left) / scale, y: (event.clientY - box.top) / scale };
  };
  const under = ({ x, y }: { x: number; y: number }) => controls.findLast(({ frame }) => x >= frame.x && x <= frame.x + frame.width && y >= frame.y && y <= frame.y + frame.height);

  const press = (event: PointerEvent<HTMLDivElement>) => {
    // A second finger would begin another drag in the middle of the first.
    if (event.button !== 0 || !event.isPrimary) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const point = at(event);
    const handle = HANDLES.find(({ name }) => name === (event.target as HTMLElement).dataset.handle);
    if (handle) return void (drag.current = { kind: 'size', handle, ...point });
    const hit = under(point);
    if (!hit) {
      if (!event.shiftKey) mark([]);
      drag.current = { kind: 'marquee', ...point };
      return;
    }
    if (event.shiftKey) mark(marked.includes(hit.id) ? marked.filter((id) => id !== hit.id) : [...marked, hit.id]);
    else if (!marked.includes(hit.id)) mark([hit.id]);
    drag.current = { kind: 'move', pressed: hit.id, ...point };
  };

  const move = (event: PointerEvent<HTMLDivElement>) => {
    const from = drag.current;
    if (!from || !event.isPrimary) return;
    const point = at(event);
    let dx = point.x - from.x;
    let dy = point.y - from.y;
    if (Math.hypot(dx, dy) * scale < SLOP && draft.now().size === 0 && !marquee.now()) return;
    if (from.kind === 'marquee') return marquee.set({ x: Math.min(from.x, point.x), y: Math.min(from.y, point.y), width: Math.abs(dx), height: Math.abs(dy) });
    const movable = chosen.filter(({ locked }) => !locked);
    const whole = bounds(movable.map(({ frame }) => frame));
    if (stage || !whole) return;
    const others = controls.filter(({ id }) => !marked.includes(id)).map(({ frame }) => frame);
    const reach = event.altKey ? -1 : REACH / scale;
    if (from.kind === 'move') {
      const { dx: moreX, dy: moreY, on } = snap({ ...whole, x: whole.x + dx, y: whole.y + dy }, guidesOf(others, artboard), reach);
      dx += moreX;
      dy += moreY;
      setGuides(on);
      const frames = moveWithin(movable.map(({ frame }) => frame), dx, dy, artboard);
      return draft.set(new Map(movable.map(({ id }, i) => [id, frames[i]!])));
    }
    if (from.kind !== 'size') return;
    const [only] = movable;
    const { handle } = from;
    const sized = resize(only!.frame, handle, dx, dy, artboard);
    const edges = { x: handle.x === 0 ? [] : [handle.x < 0 ? 0 : 1], y: handle.y === 0 ? [] : [handle.y < 0 ? 0 : 1] };
    const { dx: moreX, dy: moreY, on } = snap(sized, guidesOf(others, artboard), reach, edges);
    setGuides(on);
    draft.set(new Map([[only!.id, resize(only!.frame, handle, dx + moreX, dy + moreY, artboard)]]));
  };

  const release = (event: PointerEvent<HTMLDivElement>) => {
    if (!event.isPrimary) return;
    const from = drag.current;
    const within = marquee.now();
    const frames = draft.now();
    cancel();
    if (!from) return;
    if (from.kind === 'marquee') {
      if (within) mark([...(event.shiftKey ? marked : []), ...controls.filter(({ frame }) => touches(frame, within)).map(({ id }) => id)]);
    } else if (frames.size === 0) {
      // A click on one of several marked means that one.
      if (from.kind === 'move' && !event.shiftKey && marked.length > 1) mark([from.pressed]);
    } else desk.place(chosen.map(({ id, frame }) => frames.get(id) ?? frame));
  };

  const cancel = () => {
    drag.current = null;
    draft.set(NOTHING);
    setGuides([]);
    marquee.set(null);
  };

  const key = (event: KeyboardEvent<HTMLDivElement>) => {
    if (keyPressed(event, desk, controls, cancel, onOpenFold)) event.preventDefault();
  };

  return (
    <div className={designer.artboard} style={{ width: artboard.width * scale, height: artboard.height * scale }}>
      {/* A picture here: what is in it is marked and moved on what lies over it, and takes no keys. */}
      <div inert>
        <Sheet playing={playing} controls={shown} palette={palette} width={artboard.width} height={artboard.height} />
      </div>
      <div
        ref={(node) => {
          element.current = node;
          setNodeRef(node);
        }}
        className={styles.drawing}
        role="application"
        tabIndex={0}
        aria-label={`Canvas with ${controls.length} controls; ${marked.length === 0 ? 'none' : outlined.map(calledBy).join(', ')} marked. Page up and Page down go from control to control.`}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={release}
        onPointerCancel={({ isPrimary }) => isPrimary && cancel()}
        onDoubleClick={(event) => {
          const hit = under(at(event));
          if (hit?.kind === 'fold') onOpenFold(hit.id);
        }}
        onKeyDown={key}
      >
        {outlined.map(({ id, frame, locked }) => (
          <div key={id} className={styles.outline} data-outline data-locked={locked} style={placed(frame, scale)} />
        ))}
        {outlined.length === 1 && !outlined[0]!.locked && !stage && HANDLES.map(({ name, x, y }) => <div key={name} className={styles.handle} data-handle={name} style={{ left: (around!.x + ((x + 1) / 2) * around!.width) * scale, top: (around!.y + ((y + 1) / 2) * around!.height) * scale, cursor: `${name}-resize` }} />)}
        {guides.map(({ axis, at: line }) => (
          <div key={`${axis} ${line}`} className={styles.guide} data-axis={axis} style={axis === 'x' ? { left: line * scale } : { top: line * scale }} />
        ))}
        {draft.shown.size > 0 && around && (
          <output className={styles.measure} style={{ left: around.x * scale, top: (around.y + around.height) * scale }}>
            {`${Math.round(around.x)}, ${Math.round(around.y)} · ${Math.round(around.width)} × ${Math.round(around.height)}`}
          </output>
        )}
        {marquee.shown && <div className={styles.marquee} style={placed(marquee.shown, scale)} />}
      </div>
    </div>
  );
}

const NOTHING: ReadonlyMap<string, Frame> = new Map();

const placed = ({ x, y, width, height }: Frame, scale: number) => ({ left: x * scale, top: y * scale, width: width * scale, height: height * scale });

/** What a key does on the canvas; false where it does nothing there. */
function keyPressed(event: KeyboardEvent, desk: DesignerDesk, controls: readonly RigControl[], cancel: () => void, openFold: (id: string) => void): boolean {
  const { key, shiftKey, ctrlKey, metaKey } = event;
  const { marked, mark, chosen } = desk;
  const far = shiftKey ? NUDGE_FAR : NUDGE;
  if (ctrlKey || metaKey) {
    const commands: Record<string, () => unknown> = {
      a: () => mark(controls.map(({ id }) => id)),
      c: () => desk.copy(),
      x: () => {
        desk.copy();
        desk.remove();
      },
      v: () => desk.paste(),
      d: () => {
        desk.copy();
        desk.paste();
      },
      g: () => (shiftKey ? desk.ungroup() : desk.group()),
    };
    const command = commands[letterOf(event) ?? ''];
    command?.();
    return command !== undefined;
  }
  const next = (by: number) => {
    const now = controls.findIndex(({ id }) => id === marked[0]);
    const to = controls[(now + by + controls.length) % controls.length] ?? controls[0];
    if (to) mark([to.id]);
  };
  const keys: Record<string, () => unknown> = {
    ArrowLeft: () => desk.nudge(-far, 0),
    ArrowRight: () => desk.nudge(far, 0),
    ArrowUp: () => desk.nudge(0, -far),
    ArrowDown: () => desk.nudge(0, far),
    Delete: () => desk.remove(),
    Backspace: () => desk.remove(),
    PageDown: () => next(1),
    PageUp: () => next(-1),
    Enter: () => chosen[0]?.kind === 'fold' && openFold(chosen[0].id),
    Escape: () => {
      cancel();
      mark([]);
    },
  };
  const found = keys[key];
  found?.();
  return found !== undefined;
}
