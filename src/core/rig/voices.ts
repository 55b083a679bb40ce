import type { Shaping, Smoothing } from './document';
import type { VoiceLayout } from '../voices/layout';
import type { Pull } from '../voices/pull';
import type { KeyMap } from '../voices/tuning';

/** The voices of an input: fingers on keys, pads or a pitch field, the notes of a MIDI device. */
export interface RigStream {
  id: string;
  name: string;
  input: string;
  /** For MIDI inputs: which of its notes, see `voices/midiStreams`. Surfaces say it by the control that plays it. */
  source?: string;
  hidden?: boolean;
}

/** What one axis of a voice becomes on the channel of the voice. */
export type AxisMessage =
  | { kind: 'controlChange'; controller: number }
  | { kind: 'controlChange14'; controller: number }
  | { kind: 'channelPressure' }
  | { kind: 'polyPressure' }
  /** Of the key of the voice (Key-Based Instrument Control, CA-023), for receivers that know it and not MPE. */
  | { kind: 'keyController'; controller: number }
  /** Where the layout is OSC: the last part of the address, behind that of the layout. */
  | { kind: 'osc'; part: string };

/** `range` in the numbers of the wire; of OSC any numbers. */
export interface VoiceAxis {
  shaping: Shaping;
  message: AxisMessage;
  range: [from: number, to: number];
}

/** Stream to notes: what a mapping is to a signal. */
export interface RigVoiceMapping {
  id: string;
  name: string;
  on: boolean;
  stream: string;
  output: string;
  layout: VoiceLayout;
  /** Only voices that begin within these keys, both included, or this hard. */
  keys?: { low: number; high: number };
  strikes?: { low: number; high: number };
  pitch: {
    /** Semitones, with fraction. */
    transpose: number;
    /** Whether bends are sent at all; without them each note is the nearest key. */
    bends: boolean;
    smoothing?: Smoothing;
    pull?: Pull;
  };
  /** Velocities. */
  strike: { shaping: Shaping; range: [from: number, to: number] };
  /** Release velocities; absent: 64. */
  release?: { shaping: Shaping; range: [from: number, to: number] };
  pressure?: VoiceAxis;
  slide?: VoiceAxis;
  group?: string;
  remark?: string;
  onStage?: number;
}

/** A scale that is kept in the rig, as files say it. */
export interface RigScale {
  id: string;
  name: string;
  /** Of degree 1 up to the period, above the unison. */
  cents: number[];
  /** How it lies on the keys; absent: all degrees in a row from middle C, A4 at 440 Hz. */
  keyMap?: KeyMap;
}
