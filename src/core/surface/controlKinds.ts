import { noteName } from '../midi/describe';
import type { ControlKind, PitchField, RigControl } from '../rig/document';

/** One signal of a control. */
export interface Role {
  role: string;
  kind: 'continuous' | 'gate';
  /** Behind the control's label in the name of the signal; empty for the one that the control is about. */
  suffix: string;
  rest?: number;
  period?: number;
  /** Only says that a finger is there: mapped when somebody wants it, not from the start. */
  touch?: boolean;
  /** For keys: the note that it is made for. */
  note?: number;
}

interface KindFacts {
  name: string;
  /** What it is good for, in a few words. */
  about: string;
  width: number;
  height: number;
}

export const CONTROL_KINDS: Readonly<Record<ControlKind, KindFacts>> = {
  fader: { name: 'Fader', about: 'a level, upright or lying by its shape', width: 110, height: 400 },
  faders: { name: 'Fader row', about: 'levels side by side, swept with one finger', width: 420, height: 300 },
  dial: { name: 'Dial', about: 'turns, with ends or endless', width: 200, height: 110 },
  xy: { name: 'XY pad', about: 'two axes under one finger or several', width: 360, height: 360 },
  push: { name: 'Button', about: 'on while it is held', width: 160, height: 140 },
  toggle: { name: 'Toggle', about: 'on, and off again', width: 160, height: 90 },
  radio: { name: 'Choice', about: 'one of several', width: 420, height: 72 },
  pads: { name: 'Pads', about: 'a grid that is struck', width: 420, height: 420 },
  keys: { name: 'Keys', about: 'a range of notes, or a scale', width: 640, height: 220 },
  pitchField: { name: 'Pitch field', about: 'rows of gliding pitch, a voice for each finger', width: 720, height: 420 },
  strip: { name: 'Strip', about: 'bend or position, springs back', width: 110, height: 400 },
  tracks: { name: 'Tracks', about: 'lanes that keep their finger', width: 420, height: 400 },
  stepper: { name: 'Stepper', about: 'one step up or down', width: 220, height: 90 },
  label: { name: 'Label', about: 'words on the surface', width: 220, height: 52 },
  readout: { name: 'Readout', about: 'a signal as a number', width: 180, height: 80 },
  meter: { name: 'Meter', about: 'a signal as a bar', width: 48, height: 300 },
  ring: { name: 'Ring', about: 'a signal as an arc', width: 120, height: 120 },
  page: { name: 'Page tab', about: 'turns to a page', width: 160, height: 60 },
  bank: { name: 'Bank tabs', about: 'the same controls, other numbers', width: 280, height: 60 },
  scene: { name: 'Scene', about: 'recalls a scene', width: 180, height: 90 },
  fold: { name: 'Fold-out', about: 'lays more controls over the page', width: 160, height: 90 },
};

export const LIMITS_OF_CONTROLS = { faders: 32, tracks: 8, choices: 16, padsAcross: 16, keys: 61, rows: 12, steps: 128, fingers: 10, banks: 8, paletteColours: 12 } as const;

const TOUCH: Role = { role: 'touch', kind: 'gate', suffix: 'touch', touch: true };
const value = (more: Partial<Role> = {}): Role => ({ role: 'value', kind: 'continuous', suffix: '', ...more });
const gate = (role: string, suffix: string, note?: number): Role => ({ role, kind: 'gate', suffix, ...(note === undefined ? {} : { note }) });
const numbers = (count: number) => Array.from({ length: count }, (_, i) => i + 1);

/** The signals that a control has, in order. Those of its cells are numbered from 1; keys go by their note. */
export function rolesOf(control: RigControl): Role[] {
  switch (control.kind) {
    case 'fader':
      return [value(), TOUCH];
    case 'dial':
      return [value(control.endless ? { period: 1 } : {}), TOUCH];
    case 'strip':
      return [value({ rest: 0.5 }), TOUCH];
    case 'xy':
      return numbers(control.fingers ?? 1).flatMap((n): Role[] => {
        const tail = n === 1 ? '' : String(n);
        const axis = (name: string): Role => ({ role: `${name}${tail}`, kind: 'continuous', suffix: `${name}${tail}`, rest: 0.5 });
        return [axis('x'), axis('y'), { role: `touch${tail}`, kind: 'gate', suffix: `touch${tail}`, touch: true }];
      });
    case 'faders':
      return numbers(control.count).map((n) => ({ role: `value${n}`, kind: 'continuous', suffix: String(n) }));
    case 'tracks':
      return numbers(control.count).flatMap((n): Role[] => [
        { role: `value${n}`, kind: 'continuous', suffix: String(n) },
        { role: `touch${n}`, kind: 'gate', suffix: `touch ${n}`, touch: true },
      ]);
    case 'push':
      return [gate('gate', '')];
    case 'pads':
      return control.stream !== undefined ? [] : numbers(control.columns * control.rows).map((n) => gate(`pad${n}`, String(n)));
    case 'keys':
      return control.stream !== undefined ? [] : keysOf(control).map((note) => gate(`key${note}`, noteName(note), note));
    case 'toggle':
    case 'radio':
    case 'stepper':
      return [value()];
    case 'pitchField':
    case 'label':
    case 'readout':
    case 'meter':
    case 'ring':
    case 'page':
    case 'bank':
    case 'scene':
    case 'fold':
      return [];
    default:
      return control satisfies never;
  }
}

/** The notes of a keyboard, low to high. */
export function keysOf({ low, high, scale }: { low: number; high: number; scale?: number[] | undefined }): number[] {
  return Array.from({ length: Math.max(0, high - low + 1) }, (_, i) => low + i).filter((note) => !scale || scale.includes(note % 12));
}

/** Three rows a fourth apart, two octaves each, from the C below middle C up. */
const PLAIN_FIELD: PitchField = { rows: 3, low: 48, span: 24, interval: 5, guides: { root: 0, mode: 'chromatic' }, strikeFrom: 'fixed', pressureFrom: 'travel', across: false };

/** As the stream of a control that is to have one of its own and has none yet. */
export const NEW_STREAM = '';

/** A control of a kind as it comes from the tray, without signals yet. */
export function plainControl(kind: ControlKind, id: string, label: string, frame: RigControl['frame']): RigControl {
  const base = { id, label, frame, signals: {} };
  switch (kind) {
    case 'faders':
      return { ...base, kind, count: 8 };
    case 'tracks':
      return { ...base, kind, count: 4 };
    case 'radio':
      return { ...base, kind, choices: ['One', 'Two', 'Three', 'Four'] };
    case 'pads':
      return { ...base, kind, columns: 4, rows: 4, strength: 'position', stream: NEW_STREAM };
    case 'keys':
      return { ...base, kind, low: 48, high: 72, strength: 'position', stream: NEW_STREAM };
    case 'strip':
      return { ...base, kind, mode: 'bend' };
    case 'stepper':
      return { ...base, kind, steps: 16 };
    case 'readout':
    case 'meter':
    case 'ring':
      return { ...base, kind, shows: null };
    case 'page':
      return { ...base, kind, page: null };
    case 'scene':
      return { ...base, kind, scene: null };
    case 'pitchField':
      return { ...base, kind, stream: NEW_STREAM, ...PLAIN_FIELD };
    case 'fold':
      return { ...base, kind, opens: 'hold', panel: { x: frame.x, y: frame.y, width: 420, height: 320 }, controls: [] };
    default:
      return { ...base, kind };
  }
}

/** The signals of a control in a bank, 0 being the first; a control that has no others keeps its own. */
export function signalsInBank({ signals, banks }: Pick<RigControl, 'signals' | 'banks'>, bank: number): Record<string, string> {
  return (bank > 0 && banks?.[bank - 1]) || signals;
}

/** Controls with those that lie in their fold-outs. */
export function flatControls(controls: readonly RigControl[]): RigControl[] {
  return controls.flatMap((control) => (control.kind === 'fold' ? [control, ...flatControls(control.controls)] : [control]));
}

/** Every signal of a control, in all banks. */
export function everySignal({ signals, banks = [] }: Pick<RigControl, 'signals' | 'banks'>): string[] {
  return [signals, ...banks].flatMap((set) => Object.values(set));
}

/** The streams that a surface plays. */
export function surfaceStreams(surface: { pages: { controls: RigControl[] }[] }): string[] {
  return surface.pages.flatMap((page) => flatControls(page.controls)).flatMap((control) => streamOf(control) ?? []);
}

/** The stream that a control plays; null where it plays none. */
export function streamOf(control: RigControl): string | null {
  return ('stream' in control ? control.stream : undefined) ?? null;
}

/** The signals that a surface plays or shows. */
export function surfaceSignals(surface: { pages: { controls: RigControl[] }[] }): { plays: string[]; shows: string[] } {
  const controls = surface.pages.flatMap((page) => flatControls(page.controls));
  return { plays: controls.flatMap(everySignal), shows: controls.flatMap((control) => ('shows' in control && control.shows !== null ? [control.shows] : [])) };
}
