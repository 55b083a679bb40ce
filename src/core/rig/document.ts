import type { RigInput } from '../inputs/kinds';
import type { ReceiverSound } from '../instruments/instruments';
import type { MessageSpec } from '../messages';
import type { Layout } from '../receivers/layout';
import type { Understanding } from '../receivers/mismatch';
import type { RigOutput } from '../outputs/kinds';
import type { Formula } from '../signal/formulas';
import type { Mode } from '../voices/scale';
import type { SceneTransport } from './sceneTransport';
import type { RigMember } from '../ensemble/parts';
import type { RigScale, RigStream, RigVoiceMapping } from './voices';

/**
 * The rig document: everything one performance needs, as plain data. `protocol/rig` holds the schema that checks it;
 * these are its types. References are ids within the same document. `docs/rig-format.md` says it for people.
 */
export interface RigDocument {
  format: typeof RIG_FORMAT;
  version: typeof RIG_VERSION;
  name: string;
  /** Beats (quarter notes) per minute. */
  tempoBpm: number;
  /** So many notes of such a length are a bar. */
  meter: [many: number, unit: 1 | 2 | 4 | 8 | 16];
  /** Bars that are counted before a piece begins; absent: none. */
  countInBars?: number;
  /** The first note that a member hears starts the transport; absent: it is started by hand. */
  startsBy?: 'first note';
  inputs: RigInput[];
  signals: RigSignal[];
  derived: RigDerived[];
  mappings: RigMapping[];
  streams: RigStream[];
  /** Streams that are made of others. */
  members: RigMember[];
  voiceMappings: RigVoiceMapping[];
  scales: RigScale[];
  outputs: RigOutput[];
  receivers: RigReceiver[];
  surfaces: RigSurface[];
  scenes: RigScene[];
}

export const RIG_FORMAT = 'pumice-rig';
export const RIG_VERSION = 3;

export const SIGNAL_UNITS = ['unit', 'g', 'deg', 'deg/s', 'mm', 'Hz', 'dB', 'cents', 'count'] as const;
export type SignalUnit = (typeof SIGNAL_UNITS)[number];

/** What signals from inputs and derived signals have in common. */
interface SignalBase {
  id: string;
  name: string;
  /** A gate is 0, or while it is on a strength above 0 up to 1. */
  kind: 'continuous' | 'gate';
  unit: SignalUnit;
  /** Nominal range in the signal's unit. */
  range: [lo: number, hi: number];
  /** Where the signal lies before it was ever moved, in its unit. */
  rest?: number;
  /** For angles: the value after which it starts again, so that 359 deg to 1 deg is a step of 2. */
  period?: number;
}

/** One stream of numbers from an input. */
export interface RigSignal extends SignalBase {
  input: string;
  /** The other of two signals that belong together (stick, XY, tilt), so that a dead zone can be round. */
  pair?: string;
  /** For OSC inputs: the address and the place among its arguments, from 0. */
  osc?: { address: string; argument: number };
  /** For other devices: which part of the device it is, in the words of its kind (`axis 0`, `cc 1 21`, `tilt pitch`). */
  source?: string;
  calibration?: Calibration;
  /** A heading that it is listed under. */
  group?: string;
  hidden?: boolean;
  /** A spring: when the gate `released` ends, the signal goes to `to` (its unit) within `overMs`. */
  returns?: { to: number; overMs: number; released: string };
}

/** What turns the raw numbers of one specimen of a sensor into the nominal ones. All in the unit of the raw number. */
export interface Calibration {
  /** Changes smaller than this are noise and are left out; within it of the centre is the centre. */
  noise?: number;
  /** Raw ends and, where the signal has a rest, the raw middle: laid onto the range and the rest. */
  travel?: { lo: number; hi: number; centre?: number };
  /** Taken off, after the travel. */
  zero?: number;
}

/** A signal made of others; they may themselves be derived, but not in a circle. */
export interface RigDerived extends SignalBase {
  formula: Formula;
}

export const MERGES = ['latest', 'highest', 'lowest', 'sum', 'average', 'none'] as const;
export type Merge = (typeof MERGES)[number];

export interface RigMapping {
  id: string;
  name: string;
  on: boolean;
  signal: string;
  shaping: Shaping;
  message: MessageSpec;
  output: string;
  /** What happens where several mappings share one address; absent: none, the latest wins and the ledger warns. */
  merge?: Merge;
  /** How the shaped level becomes on and off, for messages that are one or the other. */
  gate?: GateSpec;
  /** How a gate becomes a moving level. */
  motion?: Motion;
  /** A heading that it is listed under. */
  group?: string;
  /** What the performer wants to remember of it. */
  remark?: string;
  /** Shown large on Stage, in the order of these numbers. */
  onStage?: number;
  /** Its level, shown on a controller: a ring, a lamp, a motor. */
  shownOn?: ShownOn;
}

/** What a controller is sent so that it shows a level: `from` at level 0 to `to` at level 1, in the numbers of the wire. */
export interface ShownOn {
  output: string;
  as: 'controller' | 'note' | 'bend';
  channel: number;
  /** Of the controller or note. */
  number?: number;
  from: number;
  to: number;
}

/** The steps between a signal and a level; an absent step passes the value through. */
export interface Shaping {
  /** In the signal's unit; absent: the signal's nominal range. */
  rangeIn?: { lo: number; hi: number; outside?: Outside };
  deadZone?: DeadZone;
  deglitch?: { median?: 3 | 5 | 7; jump?: { perS: number; forMs: number } };
  smoothing?: Smoothing;
  curve?: Curve;
  steps?: { count: number; hysteresis: number };
  window?: { lo: number; hi: number; fade?: { law: 'linear' | 'equalPower'; direction: 'in' | 'out' } };
}

export const OUTSIDES = ['clamp', 'wrap', 'fold'] as const;
export type Outside = (typeof OUTSIDES)[number];

/** Shares of the way from rest to full. Around the middle (round where the signal has a pair), or at the two ends. */
export type DeadZone = { kind: 'centre'; inner: number; outer: number } | { kind: 'ends'; low: number; high: number };

export type Smoothing =
  | { kind: 'onePole'; timeConstantMs: number }
  | { kind: 'attackRelease'; attackMs: number; releaseMs: number }
  | { kind: 'oneEuro'; minCutoffHz: number; beta: number; derivativeCutoffHz: number }
  | { kind: 'slew'; perS: number };

/** Power: exponent 2^k. Points: at least two, x rising from 0 to 1. */
export type Curve =
  | { kind: 'power'; k: number }
  | { kind: 's'; amount: number }
  | { kind: 'points'; points: [x: number, y: number][] }
  | { kind: 'stepped'; points: [x: number, y: number][] };

export interface GateSpec {
  /** On above `on`, off below `off`, both levels; `off` is not above `on`. */
  on?: number;
  off?: number;
  minOnMs?: number;
  minGapMs?: number;
  /** Toggle: every press turns it over. Radio: a press turns the others of the group off. */
  press?: 'momentary' | 'toggle' | { radio: string };
}

/** Ramp: towards one level while on, another while off. Climb: while on, the level moves on and stays where it is. */
export type Motion =
  | { kind: 'ramp'; onLevel: number; offLevel: number; upMs: number; downMs: number }
  | { kind: 'climb'; perS: number; accelerationPerS2: number };


/** What is being played, with what must be known of it. */
export interface RigReceiver {
  id: string;
  name: string;
  about: string;
  bendRangeSemitones: number;
  /** What its bend range is set to over there, where that is known to be another. */
  bendThereSemitones?: number;
  /** The channels that it listens to; absent: all. */
  channels?: number[];
  /** Notes that sound there at once; absent: not known. */
  voices?: number;
  /** Where it has its voices; absent: on one channel. */
  layout?: Layout;
  /** One voice is played alone on its first part, so that a sound can be shaped there. */
  alone?: boolean;
  /** Notes that play nothing there, so that they can be learned for other things. */
  freeNotes?: { low: number; high: number };
  /** What it is called up with when it is set up: 0 to 127, of a bank of 14 bits. */
  program?: { number: number; bank?: number };
  /** What of the checklist was done over there; see `receivers/setUp`. */
  setByHand?: string[];
  /** The mappings and voice mappings that it has learned, by id, each with its address then. */
  taught?: Record<string, string>;
  taughtVoices?: Record<string, string>;
  /** What it does not understand. */
  lacks?: Understanding[];
  /** Controllers that do something of their own there, whatever is learned. */
  hardWired?: { controller: number; does: string }[];
  /** How it sounds where it is a stand-in; absent: it is only seen. */
  sound?: ReceiverSound;
}

/** A named state: which mappings are on, which page a surface shows, values of signals, messages to send. */
export interface RigScene {
  id: string;
  name: string;
  mappings: Record<string, boolean>;
  /** Which voice mappings are on. */
  voiceMappings?: Record<string, boolean>;
  /** Which members of the ensemble are on. */
  members?: Record<string, boolean>;
  /** What the transport does then. */
  transport?: SceneTransport;
  /** Which receivers hear one voice alone. */
  alone?: Record<string, boolean>;
  pages: Record<string, string>;
  /** Which bank a surface turns to, by its place from 0. */
  banks?: Record<string, number>;
  values: Record<string, number>;
  messages: { output: string; bytes: number[] }[];
  glideMs: number;
  recalledBy?: SceneTrigger;
}

/** What recalls a scene while playing: a gate of an input that goes on, or a signal of one that takes the value `at`. */
export interface SceneTrigger {
  signal: string;
  at?: number;
}

/** A touch layout. Lengths are CSS pixels of the device it was made for. */
export interface RigSurface {
  id: string;
  name: string;
  width: number;
  height: number;
  /** Colours of its own, `#rrggbb`; controls name them by their place. */
  palette?: string[];
  /** False: no strip of its own for pages that no tab leads to. */
  pageStrip?: boolean;
  /** Names of its banks, two or more: the same controls, each time with other signals and so with other numbers. */
  banks?: string[];
  pages: RigPage[];
}

export interface RigPage {
  id: string;
  name: string;
  controls: RigControl[];
}

export interface Frame {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** How a finger moves a control: see `surface/touchBehaviour`. */
export interface TouchBehaviour {
  kind: 'jump' | 'pickUp' | 'softTakeover' | 'relative';
  /** Travel of the value for the whole travel of the finger; 1 is true to the finger. */
  sensitivity: number;
}

interface ControlBase {
  id: string;
  /** Empty: it shows what it sends. */
  label: string;
  frame: Frame;
  behaviour?: TouchBehaviour;
  /** A colour of the surface's palette, by its place from 0. */
  colour?: number;
  /** Controls of one group are marked and moved together. */
  group?: string;
  /** Neither moved nor sized in the designer. */
  locked?: boolean;
  /** By role, see `surface/controlKinds`: a control is a picture of ordinary signals. */
  signals: Record<string, string>;
  /** The signals of the second bank and those after it. */
  banks?: Record<string, string>[];
}

/** How hard a pad or key was struck: always fully, by the place on it (harder towards the lower edge), or by the size of the touch. */
export const STRENGTHS = ['fixed', 'position', 'size'] as const;
export type Strength = (typeof STRENGTHS)[number];

/** Rows of continuous pitch under the fingers, the lowest row at the bottom. */
export interface PitchField {
  rows: number;
  /** The pitch at the left end of the lowest row, semitones across a row, and semitones from a row to the next. */
  low: number;
  span: number;
  interval: number;
  /** The scale whose pitches are drawn. */
  guides?: { root: number; mode: Mode };
  strikeFrom: (typeof STRIKES)[number];
  pressureFrom: (typeof PRESSURES)[number];
  /** Whether a finger that leaves its row is on the next one. */
  across: boolean;
}

/** How hard a voice of a pitch field begins: always the same, by the size of the touch, or by how quickly it grows or moves at first. */
export const STRIKES = ['fixed', 'size', 'speed'] as const;
/** What presses a voice of a pitch field: the size of the touch, its force where the device has it, or the way from where it began. */
export const PRESSURES = ['size', 'force', 'travel'] as const;

export type RigControl = ControlBase &
  (
    | { kind: 'fader' }
    | { kind: 'push' }
    | { kind: 'toggle' }
    /** Endless: it has no ends, and its signal starts again after each turn. */
    | { kind: 'dial'; endless?: boolean }
    /** A point for each of up to ten fingers. */
    | { kind: 'xy'; fingers?: number }
    /** Faders side by side that a finger may sweep across. */
    | { kind: 'faders'; count: number }
    /** Lanes side by side; a lane keeps the finger that came down on it. */
    | { kind: 'tracks'; count: number }
    | { kind: 'radio'; choices: string[] }
    | { kind: 'pads'; columns: number; rows: number; strength: Strength; stream?: string; low?: number }
    /** With a stream, pads and keys are voices of it (pads from the note `low` up); without one each is a gate of its own. Keys go from one note to another, all of them or those of a scale (semitones above C). */
    | { kind: 'keys'; low: number; high: number; scale?: number[]; strength: Strength; stream?: string }
    | ({ kind: 'pitchField'; stream: string } & PitchField)
    /** Position: the finger's place. Bend: from the middle by the way that the finger goes. */
    | { kind: 'strip'; mode: 'position' | 'bend' }
    | { kind: 'stepper'; steps: number }
    | { kind: 'label' }
    /** Shows a signal of any input, null while none is chosen. */
    | { kind: 'readout'; shows: string | null }
    | { kind: 'meter'; shows: string | null }
    | { kind: 'ring'; shows: string | null }
    | { kind: 'page'; page: string | null }
    | { kind: 'bank' }
    | { kind: 'scene'; scene: string | null }
    /** Lays a panel of other controls over the page while it is held, or until it is tapped again. */
    | { kind: 'fold'; opens: 'hold' | 'tap'; panel: Frame; controls: RigControl[] }
  );

export type ControlKind = RigControl['kind'];
export type ControlOf<K extends ControlKind> = Extract<RigControl, { kind: K }>;
