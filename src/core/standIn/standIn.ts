import type { FeedReport, SourceReport } from '../inputs/feed';

/** Something that a hand can move on a stand-in, within its range. */
export interface Knob {
  key: string;
  name: string;
  kind: 'continuous' | 'gate';
  range: [lo: number, hi: number];
  rest: number;
}

/** How badly a stand-in behaves. Noise and drift are shares of the range, faults a share of the readings. */
export interface StandInSettings {
  /** Whether it plays by itself; else the knobs are where a hand left them. */
  byItself: boolean;
  noise: number;
  drift: number;
  rateHz: number;
  faults: number;
}

/** What a stand-in gives at one moment, in the way of the real thing. */
export type Reading =
  | { way: 'source'; key: string; value: number }
  | { way: 'osc'; address: string; arguments: { type: 'f' | 'i'; value: number }[] }
  | { way: 'midi'; bytes: number[] };

/** The moment that a reading is made for. */
export interface Moment {
  timeMs: number;
  /** Since the reading before. */
  dtMs: number;
  /** By knob, after hand or own playing, with drift and noise on the continuous ones. */
  knobs: readonly number[];
  settings: StandInSettings;
  /** Evenly distributed in [0, 1). */
  random(): number;
}

/** A simulated feed: what it says of itself, what moves it, and what it sends when it is moved. */
export interface StandIn {
  id: string;
  name: string;
  about: string;
  feed: FeedReport;
  /** For those whose values go in as sources. */
  sources: SourceReport[];
  knobs: Knob[];
  defaults: StandInSettings;
  /** Where the knobs are when it plays by itself. */
  play(timeS: number): number[];
  /** A new specimen with a memory of its own. */
  specimen(): { read(moment: Moment): Reading[] };
}
