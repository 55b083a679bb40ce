import type { ControlKind, Frame, RigSurface } from '../rig/document';
import { freeId, freeName } from '../rig/naming';
import { makeChordBoard, type Band } from '../ensemble/chordBoard';
import { makeControl } from './make';
import type { Workbench } from './workbench';
import type { Size } from './arrange';
import type { MessageSpec } from '../messages';

export const STARTERS = ['empty', 'mixer strips', 'pads', 'keys', 'two XY pads', 'tracks', 'transport', 'chords'] as const;
export type Starter = (typeof STARTERS)[number];

/** Sizes of windows that common devices have, upright, in CSS pixels (common practice). */
export const DEVICE_SIZES: readonly (Size & { name: string })[] = [
  { name: 'Small phone', width: 360, height: 640 },
  { name: 'Phone', width: 390, height: 844 },
  { name: 'Large phone', width: 430, height: 932 },
  { name: 'Small tablet', width: 744, height: 1133 },
  { name: 'Tablet', width: 820, height: 1180 },
  { name: 'Large tablet', width: 1024, height: 1366 },
  { name: 'Wide tablet', width: 800, height: 1280 },
];

const MARGIN = 20;
const GAP = 12;

interface Cell {
  kind: ControlKind;
  /** Column, row, and how many of each it takes. */
  at: [column: number, row: number, across: number, down: number];
  label?: string;
  message?: MessageSpec;
}

/** A new surface with the controls of a starter, all mapped to free numbers; or with a band that they play. */
export function makeSurface(bench: Workbench, wanted: string, { width, height }: Size, starter: Starter, band?: Band): string {
  const id = freeId(wanted, new Set(bench.rig.surfaces.map((surface) => surface.id)));
  const surface: RigSurface = { id, name: freeName(wanted, bench.rig.surfaces.map(({ name }) => name)), width, height, pages: [{ id: 'first', name: 'First', controls: [] }] };
  bench.put({ list: 'surfaces', id, to: surface });
  bench.inputOf(surface);
  const place = (at: Cell['at'], columns: number, rows: number) => frameOf(at, columns, rows, { width, height });
  if (starter === 'chords') makeChordBoard(bench, id, place, width >= height, band);
  const { columns, rows, cells } = layout(starter, width >= height);
  for (const { kind, at, label, message } of cells) {
    makeControl(bench, { surface: id, page: 'first' }, kind, place(at, columns, rows), { ...(label === undefined ? {} : { label }), ...(message ? { message } : {}) });
  }
  return id;
}

function frameOf([column, row, across, down]: Cell['at'], columns: number, rows: number, { width, height }: Size): Frame {
  const line = (from: number, count: number, of: number, whole: number): [number, number] => {
    const each = (whole - 2 * MARGIN - (of - 1) * GAP) / of;
    const start = Math.round(MARGIN + from * (each + GAP));
    return [start, Math.round(MARGIN + (from + count) * (each + GAP) - GAP) - start];
  };
  const [x, w] = line(column, across, columns, width);
  const [y, h] = line(row, down, rows, height);
  return { x, y, width: w, height: h };
}

function layout(starter: Starter, lying: boolean): { columns: number; rows: number; cells: Cell[] } {
  const numbers = (count: number) => Array.from({ length: count }, (_, i) => i);
  switch (starter) {
    case 'empty':
    // What belongs together is made as one.
    case 'chords':
      return { columns: 1, rows: 1, cells: [] };
    case 'mixer strips': {
      const strips = lying ? 8 : 4;
      const strip = (i: number): Cell[] => [
        { kind: 'dial', at: [i, 0, 1, 2], label: `Side ${i + 1}` },
        { kind: 'fader', at: [i, 2, 1, 6], label: `Level ${i + 1}` },
        { kind: 'toggle', at: [i, 8, 1, 2], label: `Mute ${i + 1}` },
      ];
      return { columns: strips, rows: 10, cells: numbers(strips).flatMap(strip) };
    }
    case 'pads':
      return lying
        ? { columns: 12, rows: 4, cells: [{ kind: 'pads', at: [0, 0, 8, 4] }, ...numbers(4).map((i): Cell => ({ kind: 'push', at: [8, i, 2, 1] })), { kind: 'fader', at: [10, 0, 2, 4] }] }
        : { columns: 4, rows: 8, cells: [{ kind: 'pads', at: [0, 0, 4, 5] }, ...numbers(4).map((i): Cell => ({ kind: 'push', at: [i, 5, 1, 1] })), { kind: 'fader', at: [0, 6, 4, 2] }] };
    case 'keys':
      return lying
        ? { columns: 12, rows: 8, cells: [{ kind: 'strip', at: [0, 0, 1, 8] }, ...numbers(5).map((i): Cell => ({ kind: 'dial', at: [1 + 2 * i, 0, 2, 2] })), { kind: 'keys', at: [1, 2, 11, 6] }] }
        : { columns: 4, rows: 8, cells: [...numbers(4).map((i): Cell => ({ kind: 'dial', at: [i, 0, 1, 1] })), { kind: 'strip', at: [0, 1, 4, 1] }, { kind: 'keys', at: [0, 2, 4, 6] }] };
    case 'two XY pads':
      return lying
        ? { columns: 2, rows: 5, cells: [{ kind: 'xy', at: [0, 0, 1, 4] }, { kind: 'xy', at: [1, 0, 1, 4] }, { kind: 'radio', at: [0, 4, 1, 1] }, { kind: 'radio', at: [1, 4, 1, 1] }] }
        : { columns: 1, rows: 10, cells: [{ kind: 'xy', at: [0, 0, 1, 4] }, { kind: 'radio', at: [0, 4, 1, 1] }, { kind: 'xy', at: [0, 5, 1, 4] }, { kind: 'radio', at: [0, 9, 1, 1] }] };
    case 'tracks':
      return { columns: 4, rows: 8, cells: [{ kind: 'tracks', at: [0, 0, 4, 6] }, ...numbers(4).map((i): Cell => ({ kind: 'toggle', at: [i, 6, 1, 2] }))] };
    case 'transport': {
      const keys: [string, MessageSpec][] = [
        ['Start', { kind: 'transport', action: 'start' }],
        ['Stop', { kind: 'transport', action: 'stop' }],
        ['Continue', { kind: 'transport', action: 'continue' }],
        ['Record', { kind: 'machine', device: 127, command: 'recordStrobe' }],
        ['Rewind', { kind: 'machine', device: 127, command: 'rewind' }],
        ['Forward', { kind: 'machine', device: 127, command: 'fastForward' }],
      ];
      const [columns, rows] = lying ? [3, 2] : [2, 3];
      return { columns, rows, cells: keys.map(([label, message], i): Cell => ({ kind: 'push', at: [i % columns, Math.floor(i / columns), 1, 1], label, message })) };
    }
    default:
      return starter satisfies never;
  }
}
