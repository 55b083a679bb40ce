/** Recorded signals, as they are kept: columns by sample, times rising from the first. */
export interface Recording {
  id: string;
  name: string;
  /** Names of the signals in it. */
  signals: string[];
  timesMs: number[];
  /** By sample: which of `signals`, and its raw value. */
  which: number[];
  values: number[];
}

/** What was wrong with one line of a file; the good ones stay. */
export interface LineProblem {
  line: number;
  message: string;
}

/** What a recording is like, for whoever makes an input of it. */
export interface TakenRecording {
  id: string;
  name: string;
  samples: number;
  lengthMs: number;
  signals: { name: string; lo: number; hi: number }[];
  problems: LineProblem[];
  badLines: number;
}
