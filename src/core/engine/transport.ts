import type { PieceTime } from '../signal/formulas/kind';
import type { SceneTransport } from '../rig/sceneTransport';
import { STATUS } from '../midi/message';
import { CLOCKS_PER_BEAT } from '../time/clockFollower';
import { TapTempo } from '../time/tapTempo';
import { beatAt, beatsPerBar, changeTempo, locate, msAt, nextGrid } from '../time/musicalTime';
import { wanted, type Running } from './running';
import { BY_CLOCK } from './sink';

/** The tempi that a rig may have. */
const [LEAST_BPM, MOST_BPM] = [20, 400];
/** After a longer pause what is due by the clock goes on from now instead of being made up for. */
export const PAUSE_MS = 1000;
/** Song positions count sixteenths (MIDI 1.0, song position pointer). */
export const POSITIONS_PER_BEAT = 4;
const MOST_POSITION = 0x3fff;
/** So long after Start or Continue the first clock comes at the earliest, so that receivers are ready (MIDI 1.0, system real time; from memory). */
const LEAD_MS = 1;
/** A clock that is followed and stands elsewhere by more was moved. */
const JUMP_BEATS = 0.5;

/**
 * The musical time of a rig: its tempo, whether it runs, and where it is; and the MIDI clock that outputs are sent. Beats go on
 * when it stands, so that what plays by itself has a tempo then, but they count from the beginning of the piece only while it runs.
 */
export class Transport {
  readonly state = {
    /** Of a clock that comes in, or of a take that is played; before that what was tapped; before that what the rig says. */
    followedBpm: null as number | null,
    tappedBpm: null as number | null,
    running: false,
    /** Where the piece stands while it does not run. */
    stoppedBeat: 0,
    anchorMs: NaN,
    anchorBeat: 0,
    bpm: 120,
    /** Which clock comes next, counted from beat 0. */
    nextClock: 0,
    /** Receivers are told to start at beat 0, which is still to come. */
    countsIn: false,
    /** Of whoever taps by a scene. */
    taps: new TapTempo(),
  };
  private readonly piece: PieceTime = { beat: 0, barBeats: 4 };
  /** Told when the beat is another all at once, and when it stops. */
  onMoved: () => void = () => undefined;
  onStopped: () => void = () => undefined;

  constructor(private readonly r: Running) {
    this.state.bpm = r.plan.rig.tempoBpm;
  }

  get tempoBpm(): number {
    return this.state.followedBpm ?? this.state.tappedBpm ?? this.r.plan.rig.tempoBpm;
  }

  get running(): boolean {
    return this.state.running;
  }

  get barBeats(): number {
    return beatsPerBar(this.r.plan.rig.meter);
  }

  /** Where the piece is now. */
  get pieceTime(): PieceTime {
    this.piece.beat = this.positionAt(this.r.nowMs);
    this.piece.barBeats = this.barBeats;
    return this.piece;
  }

  beatAt(timeMs: number): number {
    return Number.isNaN(this.state.anchorMs) ? 0 : beatAt(this.state, timeMs);
  }

  /** Where the piece is: while it stands, where it was stopped. */
  positionAt(timeMs: number): number {
    return this.state.running ? this.beatAt(timeMs) : this.state.stoppedBeat;
  }

  msAt(beat: number): number {
    return msAt(this.state, beat);
  }

  /** Time begins with the first thing that happens. */
  begin(timeMs: number): void {
    if (Number.isNaN(this.state.anchorMs)) locate(this.state, 0, timeMs);
    // The first clock is found by a tick.
    if (this.r.plan.clockOutputs.length > 0) wanted(this.r, timeMs);
  }

  /** The tempo may be another; the beat does not jump. */
  settle(): void {
    if (this.state.bpm !== this.tempoBpm) changeTempo(this.state, this.tempoBpm, this.r.nowMs);
  }

  /** @param beat where a clock that is followed stands now; NaN where it does not say */
  follow(bpm: number | null, beat = NaN): void {
    const { state, r } = this;
    state.followedBpm = bpm;
    this.settle();
    if (Number.isNaN(beat) || !state.running) return;
    const jumps = Math.abs(beat - this.beatAt(r.nowMs)) > JUMP_BEATS;
    locate(state, beat, r.nowMs);
    if (jumps) this.moved();
  }

  get tappedBpm(): number | null {
    const { tappedBpm } = this.state;
    return tappedBpm === this.r.plan.rig.tempoBpm ? null : tappedBpm;
  }

  /** One of several taps, now. */
  private tap(): true {
    const bpm = this.state.taps.tap(this.r.nowMs);
    if (!Number.isNaN(bpm)) this.tapped(Math.min(MOST_BPM, Math.max(LEAST_BPM, bpm)));
    return true;
  }

  tapped(bpm: number): void {
    this.state.tappedBpm = bpm;
    this.settle();
  }

  /** Another rig is in force. A tempo that was tapped holds until the rig says another. */
  rigChanged(before: number): void {
    if (before !== this.r.plan.rig.tempoBpm) this.state.tappedBpm = null;
    this.settle();
  }

  does(what: SceneTransport): boolean {
    switch (what) {
      case 'start':
        return this.run(-(this.r.plan.rig.countInBars ?? 0) * this.barBeats, STATUS.start);
      case 'continue':
        return this.state.running || this.run(Math.floor(this.state.stoppedBeat * POSITIONS_PER_BEAT) / POSITIONS_PER_BEAT, STATUS.continue);
      case 'stop':
        return this.stop();
      case 'startStop':
        return this.does(this.running ? 'stop' : 'start');
      case 'tap':
        return this.tap();
      default:
        return what satisfies never;
    }
  }

  /** The piece goes on from this beat. */
  goTo(beat: number): void {
    this.state.stoppedBeat = beat;
    if (!this.state.running) return;
    // A position is heard by those that stand alone (MIDI 1.0, song position pointer).
    this.say([STATUS.stop]);
    this.run(beat, STATUS.continue);
  }

  /** Everything comes a little sooner (more than 0) or later, to be together with others; clocks too, and none is left out. */
  nudge(beats: number): void {
    locate(this.state, this.beatAt(this.r.nowMs) + beats, this.r.nowMs);
  }

  /** Sends what is due; `at` is told the time of each before it leaves. */
  tick(at: (timeMs: number) => void): void {
    const { plan, writer, nowMs } = this.r;
    const { state } = this;
    if (plan.clockOutputs.length === 0) return;
    if (!(nowMs - this.clockMs() < PAUSE_MS)) state.nextClock = this.clockFrom(nowMs);
    for (let dueMs = this.clockMs(); dueMs <= nowMs; dueMs = this.clockMs()) {
      at(dueMs);
      for (const output of plan.clockOutputs) writer.clock(output);
      state.nextClock++;
      // The next clock is the first of the piece.
      if (state.countsIn && state.nextClock >= 0) {
        state.countsIn = false;
        this.say([STATUS.start]);
      }
    }
    wanted(this.r, this.clockMs());
  }

  private run(beat: number, says: number): true {
    const { state, r } = this;
    state.running = true;
    locate(state, beat, r.nowMs + (r.plan.clockOutputs.length > 0 ? LEAD_MS : 0));
    this.moved();
    if (says === STATUS.continue) this.say([STATUS.songPosition, ...positionOf(beat)]);
    state.countsIn = beat < 0;
    // What counts in is a tempo to receivers, no more.
    if (!state.countsIn) this.say([says]);
    return true;
  }

  private stop(): true {
    const { state } = this;
    if (state.running) {
      state.stoppedBeat = Math.max(0, this.beatAt(this.r.nowMs));
      state.running = state.countsIn = false;
      this.say([STATUS.stop]);
    }
    this.onStopped();
    return true;
  }

  private moved(): void {
    this.state.nextClock = this.clockFrom(this.r.nowMs);
    wanted(this.r, this.r.nowMs);
    this.onMoved();
  }

  private say(bytes: readonly number[]): void {
    for (const output of this.r.plan.clockOutputs) this.r.writer.raw(output, bytes, BY_CLOCK);
  }

  private clockMs(): number {
    return this.msAt(this.state.nextClock / CLOCKS_PER_BEAT);
  }

  private clockFrom(timeMs: number): number {
    return Math.round(nextGrid(this.beatAt(timeMs), 1 / CLOCKS_PER_BEAT) * CLOCKS_PER_BEAT);
  }
}

function positionOf(beat: number): [lsb: number, msb: number] {
  const position = Math.min(MOST_POSITION, Math.max(0, Math.round(beat * POSITIONS_PER_BEAT)));
  return [position & 0x7f, position >> 7];
}
