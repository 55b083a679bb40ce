import { App } from 'antd';
import { useCallback, useMemo, useState } from 'react';
import type { ControlKind, Frame, RigControl, RigDocument, RigSurface } from '../../../core/rig/document';
import { freeId } from '../../../core/rig/naming';
import { bounds, moveWithin, type Size } from '../../../core/surface/arrange';
import { changeControl } from '../../../core/surface/change';
import { CONTROL_KINDS } from '../../../core/surface/controlKinds';
import { clipOf, pasteClip, removeControls, repeatControls, type Pasted } from '../../../core/surface/copy';
import { controlsAt, makeControl, putControls, type Spot } from '../../../core/surface/make';
import { Workbench } from '../../../core/surface/workbench';
import { useEdit, useRig, useRigNow } from '../shell/useRig';
import { readClip, writeClip } from './clipboard';

/** So far down and to the right lies what is pasted where it was copied. */
const PASTE_STEP = 24;
const MARGIN = 20;

/** What is marked on the canvas of one surface, and everything that can be done with it. Each thing done is one edit. */
export function useDesigner(surface: RigSurface, spot: Spot, artboard: Size) {
  const { document: rig, stage } = useRig();
  const rigNow = useRigNow();
  const edit = useEdit();
  const { message } = App.useApp();
  const [marked, mark] = useState<readonly string[]>([]);
  const controls = useMemo(() => controlsAt(surface, spot), [surface, spot]);
  const chosen = useMemo(() => controls.filter(({ id }) => marked.includes(id)), [controls, marked]);

  /** Does something on a copy of the rig as it is now and sends what came of it as one edit. */
  const work = useCallback(
    <T,>(what: (bench: Workbench) => T): T => {
      const { document: now, stage: locked } = rigNow();
      const bench = new Workbench(now);
      const result = what(bench);
      if (!locked && bench.squeezed.length > 0) edit({ kind: 'change', changes: bench.squeezed });
      return result;
    },
    [rigNow, edit],
  );
  /** Puts other controls at the spot, made of those that are there now. */
  const put = useCallback(
    (by: (controls: RigControl[]) => RigControl[]) =>
      work((bench) => {
        const now = bench.surface(surface.id);
        const before = controlsAt(now, spot);
        const after = by(before);
        if (after.some((control, i) => control !== before[i])) bench.put({ list: 'surfaces', id: surface.id, to: putControls(now, spot, after) });
      }),
    [work, surface.id, spot],
  );
  const putChosen = useCallback((by: (control: RigControl) => RigControl) => put((now) => now.map((control) => (marked.includes(control.id) ? by(control) : control))), [put, marked]);
  const reportWithout = ({ without }: Pasted) => without > 0 && void message.warning(`${without} ${without === 1 ? 'mapping was' : 'mappings were'} left out: every number that fits is in use.`, 6);

  /** Controls of a group go together. */
  const withGroups = useCallback(
    (ids: readonly string[]) => {
      const groups = new Set(controls.flatMap(({ id, group }) => (ids.includes(id) && group !== undefined ? [group] : [])));
      return controls.flatMap(({ id, group }) => (ids.includes(id) || (group !== undefined && groups.has(group)) ? [id] : []));
    },
    [controls],
  );

  return {
    rig,
    stage,
    controls,
    marked,
    chosen,
    mark: (ids: readonly string[]) => mark(withGroups(ids)),
    work,
    reportWithout,
    /** Frames of what is marked; locked controls stay where they are. */
    place: (frames: readonly Frame[]) => {
      const byId = new Map(chosen.map(({ id }, i) => [id, roundFrame(frames[i]!)]));
      put((now) => now.map((control) => (byId.has(control.id) && !control.locked ? { ...control, frame: byId.get(control.id)! } : control)));
    },
    nudge: (dx: number, dy: number) =>
      put((now) => {
        const free = now.filter(({ id, locked }) => marked.includes(id) && !locked);
        const frames = moveWithin(free.map(({ frame }) => frame), dx, dy, artboard);
        const byId = new Map(free.map(({ id }, i) => [id, frames[i]!]));
        return now.map((control) => (byId.has(control.id) ? { ...control, frame: byId.get(control.id)! } : control));
      }),
    /** Makes a control where it is dropped, or where there is room. */
    make: (kind: ControlKind, at?: { x: number; y: number }) => {
      const id = work((bench) => makeControl(bench, spot, kind, at ? droppedFrame(kind, at, artboard) : roomFor(kind, controls, artboard)));
      mark([id]);
    },
    change: (to: RigControl) => work((bench) => changeControl(bench, spot, to)),
    remove: () => {
      const ids = chosen.filter(({ locked }) => !locked).map(({ id }) => id);
      if (ids.length === 0) return;
      work((bench) => removeControls(bench, spot, ids));
      mark([]);
    },
    copy: () => chosen.length > 0 && writeClip(clipOf(rig, chosen)),
    paste: () => {
      const clip = readClip();
      if (!clip) return void message.info('Nothing was copied yet: mark controls and press Ctrl+C.');
      if (spot.fold !== undefined && clip.controls.some(({ kind }) => kind === 'fold')) return void message.warning('A fold-out cannot lie in a fold-out: paste it on a page.');
      const around = bounds(clip.controls.map(({ frame }) => frame))!;
      const [target] = moveWithin([around], PASTE_STEP, PASTE_STEP, artboard);
      const pasted = work((bench) => pasteClip(bench, spot, clip, { dx: target!.x - around.x, dy: target!.y - around.y }));
      reportWithout(pasted);
      mark(pasted.ids);
    },
    repeat: (across: number, down: number, gapX: number, gapY: number) => {
      const pasted = work((bench) => repeatControls(bench, spot, marked, across, down, gapX, gapY));
      reportWithout(pasted);
      mark(pasted.ids);
    },
    group: () => {
      const taken = new Set(controls.flatMap(({ group }) => (group === undefined ? [] : [group])));
      const group = freeId('group', taken);
      putChosen((control) => ({ ...control, group }));
    },
    ungroup: () => putChosen(withoutField('group')),
    lock: (locked: boolean) => putChosen(locked ? (control) => ({ ...control, locked }) : withoutField('locked')),
    colour: (colour: number | null) => putChosen(colour === null ? withoutField('colour') : (control) => ({ ...control, colour })),
    /** Later in the list lies on top. */
    order: (to: 'front' | 'back') =>
      put((now) => {
        const [others, those] = [now.filter(({ id }) => !marked.includes(id)), now.filter(({ id }) => marked.includes(id))];
        return to === 'front' ? [...others, ...those] : [...those, ...others];
      }),
  };
}

export type DesignerDesk = ReturnType<typeof useDesigner>;

export const withoutField =
  (field: 'group' | 'locked' | 'colour' | 'behaviour') =>
  (control: RigControl): RigControl => {
    const rest = { ...control };
    delete rest[field];
    return rest;
  };

const roundFrame = ({ x, y, width, height }: Frame): Frame => ({ x: Math.round(x), y: Math.round(y), width: Math.round(width), height: Math.round(height) });

function sizeOf(kind: ControlKind, artboard: Size): Size {
  const { width, height } = CONTROL_KINDS[kind];
  return { width: Math.min(width, artboard.width), height: Math.min(height, artboard.height) };
}

/** Dropped with its middle at a point, within the surface. */
function droppedFrame(kind: ControlKind, { x, y }: { x: number; y: number }, artboard: Size): Frame {
  const { width, height } = sizeOf(kind, artboard);
  const within = (at: number, length: number, whole: number) => Math.round(Math.max(0, Math.min(at - length / 2, whole - length)));
  return { x: within(x, width, artboard.width), y: within(y, height, artboard.height), width, height };
}

/** The first place, row by row, where nothing lies; where there is none, down a stair from the upper left. */
function roomFor(kind: ControlKind, controls: readonly RigControl[], artboard: Size): Frame {
  const { width, height } = sizeOf(kind, artboard);
  for (let y = MARGIN; y + height <= artboard.height; y += MARGIN) {
    for (let x = MARGIN; x + width <= artboard.width; x += MARGIN) {
      const clear = controls.every(({ frame }) => x >= frame.x + frame.width + MARGIN / 2 || frame.x >= x + width + MARGIN / 2 || y >= frame.y + frame.height + MARGIN / 2 || frame.y >= y + height + MARGIN / 2);
      if (clear) return { x, y, width, height };
    }
  }
  const step = MARGIN * (1 + (controls.length % 10));
  return { x: Math.min(step, artboard.width - width), y: Math.min(step, artboard.height - height), width, height };
}

/** The document that a page of the designer works on, or null where the surface is gone. */
export const surfaceOf = (rig: RigDocument, id: string): RigSurface | null => rig.surfaces.find((surface) => surface.id === id) ?? null;
