/**
 * The rig document: everything one performance needs, as plain data. `protocol/rig` holds the schema that checks it;
 * these are its types. References are ids within the same document.
 */
export interface RigDocument {
  format: typeof RIG_FORMAT;
  version: typeof RIG_VERSION;
  name: string;
  /** Beats (quarter notes) per minute. */
  tempoBpm: number;
  inputs: RigInput[];
  signals: RigSignal[];
  mappings: RigMapping[];
  outputs: RigOutput[];
  receivers: RigReceiver[];
  surfaces: RigSurface[];
}

export const RIG_FORMAT = 'pumice-rig';
export const RIG_VERSION = 1;

/** Where signals come from. */
export interface RigInput {
  id: string;
  name: string;
  kind: 'surface';
  surface: string;
}

export const SIGNAL_UNITS = ['unit', 'g', 'deg', 'deg/s', 'mm', 'Hz', 'dB', 'cents', 'count'] as const;
export type SignalUnit = (typeof SIGNAL_UNITS)[number];

/** One stream of numbers. A gate is 0 or 1, or a strength between them while it is on. */
export interface RigSignal {
  id: string;
  name: string;
  input: string;
  kind: 'continuous' | 'gate';
  unit: SignalUnit;
  /** Nominal range in the signal's unit. */
  range: [lo: number, hi: number];
  /** Where the signal lies before it was ever moved, in its unit. */
  rest?: number;
}

export interface RigMapping {
  id: string;
  name: string;
  on: boolean;
  signal: string;
  shaping: Shaping;
  message: MessageSpec;
  output: string;
}

/** The steps between a signal and a level; an absent step passes the value through. */
export interface Shaping {
  /** In the signal's unit; absent: the signal's nominal range. */
  rangeIn?: { lo: number; hi: number };
  smoothing?: Smoothing;
}

export type Smoothing =
  | { kind: 'onePole'; timeConstantMs: number }
  | { kind: 'oneEuro'; minCutoffHz: number; beta: number; derivativeCutoffHz: number };

/** What a level becomes. Channels are 1-16; `range` is in the message's own unit and may run downwards. */
export type MessageSpec =
  | { kind: 'controlChange'; channel: number; controller: number; range: [lo: number, hi: number] }
  | { kind: 'note'; channel: number; note: number; velocity: number };

/** A way out of the program. */
export interface RigOutput {
  id: string;
  name: string;
  kind: 'standIn';
  receiver: string;
}

/** What is being played, with what must be known of it. */
export interface RigReceiver {
  id: string;
  name: string;
  about: string;
  bendRangeSemitones: number;
}

/** A touch layout. Lengths are CSS pixels of the device it was made for. */
export interface RigSurface {
  id: string;
  name: string;
  width: number;
  height: number;
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

interface ControlBase {
  id: string;
  label: string;
  frame: Frame;
}

/** A control is a picture of ordinary signals; `touch` is a gate that is on while a finger is on it. */
export type RigControl =
  | (ControlBase & { kind: 'fader'; signals: { value: string; touch: string } })
  | (ControlBase & { kind: 'dial'; signals: { value: string; touch: string } })
  | (ControlBase & { kind: 'xy'; signals: { x: string; y: string; touch: string } })
  | (ControlBase & { kind: 'push'; signals: { gate: string } });
