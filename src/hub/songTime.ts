import type { Engine } from '../core/engine/engine';
import type { EventNow } from '../core/engine/event';
import { beatsPerBar, msPerBeat } from '../core/time/musicalTime';
import { systemMs } from '../net/systemMs';
import type { PieceStanding } from '../protocol/live';
import type { ToTransport, TransportState } from '../protocol/transport';
import { hubTimeMs } from './time';

/** So long a clock may be silent before it is said to have stopped, and before another one may lead. */
const SILENT_MS = 500;
const GONE_MS = 2000;
/** Clocks of another tempo are no music: they are not followed. */
const [LEAST_BPM, MOST_BPM] = [10, 500];
const USUAL_BPM = 120;
/** What is said of the transport again is off by more than this. */
const SAME_BPM = 0.05;
const SAME_BEATS = 0.02;

interface Clock {
  feed: object;
  name: string;
  lastMs: number;
  bpm: number;
}

/**
 * Who says the tempo and where the piece is: pages, a clock that comes in, a take that is played. Of several clocks the first leads
 * as long as it is heard. One that stops without a word is missed by nobody: the piece goes on at its last tempo.
 */
export class SongTime {
  private leader: Clock | null = null;
  private second: Clock | null = null;
  private ofTake = false;
  private said: TransportState | null = null;

  constructor(
    private readonly engine: () => Engine | null,
    private readonly happens: (event: EventNow) => boolean,
  ) {}

  /** A page asks for something. */
  does(what: ToTransport): void {
    switch (what.does) {
      case 'tempo':
        return void this.happens({ kind: 'tapped', bpm: what.bpm });
      case 'goTo':
        return void this.happens({ kind: 'goTo', beat: what.beat });
      case 'nudge':
        return void this.happens({ kind: 'nudge', beats: what.beats });
      default:
        return void this.happens({ kind: 'transport', does: what.does });
    }
  }

  /** Whether a feed's clock is the one that leads; the first that is heard does. */
  leads(feed: object, name: string): boolean {
    const nowMs = hubTimeMs();
    const { leader } = this;
    if (leader && leader.feed !== feed && nowMs - leader.lastMs < GONE_MS) {
      this.second = { feed, name, lastMs: nowMs, bpm: NaN };
      return false;
    }
    if (leader?.feed !== feed) this.leader = { feed, name, lastMs: nowMs, bpm: NaN };
    if (this.second?.feed === feed) this.second = null;
    return true;
  }

  /** Whether a clock leads that is still heard. */
  get isLed(): boolean {
    const { leader } = this;
    return leader !== null && !Number.isNaN(leader.bpm) && hubTimeMs() - leader.lastMs <= SILENT_MS;
  }

  /** A clock of the feed that leads came at `timeMs`; `bpm` and `beat` are NaN where they are not known. */
  clock(timeMs: number, bpm: number, beat: number): void {
    const { leader } = this;
    if (!leader) return;
    const nowMs = hubTimeMs();
    leader.lastMs = nowMs;
    if (bpm >= LEAST_BPM && bpm <= MOST_BPM) leader.bpm = bpm;
    if (Number.isNaN(leader.bpm)) return;
    this.happens({ kind: 'tempo', bpm: leader.bpm, ...(Number.isNaN(beat) ? {} : { beat: beat + (nowMs - timeMs) / msPerBeat(leader.bpm) }) });
  }

  starts(): void {
    this.happens({ kind: 'transport', does: 'start' });
  }

  goesOn(beat: number): void {
    this.happens({ kind: 'goTo', beat });
    this.happens({ kind: 'transport', does: 'continue' });
  }

  stops(): void {
    this.happens({ kind: 'transport', does: 'stop' });
  }

  /** A feed is not followed any more: the piece goes on in the tempo of the rig. One that is gone while it runs leaves its tempo. */
  leaves(feed: object, gone = false): void {
    if (this.second?.feed === feed) this.second = null;
    const { leader } = this;
    if (leader?.feed !== feed) return;
    this.leader = null;
    if (gone && !Number.isNaN(leader.bpm) && this.engine()?.running) this.happens({ kind: 'tapped', bpm: leader.bpm });
    this.happens({ kind: 'tempo', bpm: null });
  }

  /** A take is played in this tempo; null: no more. */
  ofTakes(bpm: number | null): void {
    this.ofTake = bpm !== null;
    this.happens({ kind: 'tempo', bpm: bpm ?? this.leader?.bpm ?? null });
  }

  /** Where the piece is, in the meter of the rig; without a rig it stands at its beginning. */
  get now(): { running: boolean; bpm: number; beat: number; barBeats: number } {
    const engine = this.engine();
    if (!engine) return { running: false, bpm: USUAL_BPM, beat: 0, barBeats: 4 };
    return { running: engine.running, bpm: engine.tempoBpm, beat: engine.positionAt(hubTimeMs()), barBeats: beatsPerBar(engine.plan.rig.meter) };
  }

  get state(): TransportState | null {
    const engine = this.engine();
    if (!engine) return null;
    const nowMs = hubTimeMs();
    const { leader, second, ofTake } = this;
    const bpm = engine.tempoBpm;
    const lost = leader !== null && nowMs - leader.lastMs > SILENT_MS;
    const other = second && nowMs - second.lastMs < GONE_MS ? second.name : null;
    return { running: engine.running, bpm, beat: engine.positionAt(nowMs), atHubMs: nowMs, from: ofTake ? 'take' : leader && !Number.isNaN(leader.bpm) ? 'clock' : engine.tappedBpm !== null ? 'tapped' : 'rig', clock: leader && { name: leader.name, lost, second: other } };
  }

  /** Where the piece is, for a hub that may follow. */
  get standing(): PieceStanding {
    const { running, bpm, beat } = this.now;
    return { running, bpm, beat, atSystemMs: systemMs() };
  }

  /** How it stands, where that is something that does not follow from what was said last; else null. */
  news(): TransportState | null {
    const { state, said } = this;
    if (!state) return null;
    const same = said !== null && said.from === state.from && JSON.stringify(said.clock) === JSON.stringify(state.clock) && goesOn(said, state, state.atHubMs - said.atHubMs);
    if (same) return null;
    this.said = state;
    return state;
  }
}

type Piece = Pick<TransportState, 'running' | 'bpm' | 'beat'>;

/** Whether a piece is where it was to be after `ms`, by what was said of it. */
export function goesOn(said: Piece, now: Piece, ms: number): boolean {
  return said.running === now.running && Math.abs(said.bpm - now.bpm) < SAME_BPM && Math.abs(said.beat + (now.running ? ms / msPerBeat(said.bpm) : 0) - now.beat) < SAME_BEATS;
}
