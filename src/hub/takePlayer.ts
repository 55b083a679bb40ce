import { Away } from '../core/midi/away';
import { STATUS } from '../core/midi/message';
import type { DueMessage } from '../core/takes/playback';
import type { PlayingState } from '../protocol/takes';

/** More is asked for when less than this is there. */
const AHEAD_MS = 4000;
/** Whoever hands it over is gone when nothing came for so long after all that was there: what sounds must not sound for ever. */
const STARVED_MS = 1500;

export interface TakePlayerWorld {
  nowMs(): number;
  /** Sends a message of the take. */
  play(output: string, bytes: Uint8Array, ofVoice: boolean): void;
  /** Ends its notes and voices. */
  endNotes(): void;
  /** It has nothing more for the time after this, in ms from the beginning of playing. */
  wants(play: number, untilMs: number): void;
  /** One begins, at this tempo, or with null has ended. */
  changed(tempoBpm: number | null): void;
  /** The place where a new take begins, or ends. */
  punch(isIn: boolean): void;
}

/** Plays what the web process hands over of a take, each message when it is due; what it leaves bent or pedalled is let go. */
export class TakePlayer {
  private playing: { play: number; state: PlayingState } | null = null;
  private queue: DueMessage[] = [];
  private next = 0;
  private knownUntilMs = 0;
  private asked = false;
  private punched: 'not yet' | 'in' | 'out' = 'not yet';
  private last = false;
  private readonly away = new Away();

  constructor(private readonly world: TakePlayerWorld) {}

  get state(): PlayingState | null {
    return this.playing?.state ?? null;
  }

  /** When the next message is due, in hub time; Infinity for none. */
  get dueMs(): number {
    const message = this.queue[this.next];
    return this.playing && message ? this.playing.state.sinceHubMs + message.dueMs : Infinity;
  }

  get plays(): boolean {
    return this.playing !== null;
  }

  /** Begins; the first stretch must come with it. @param tempoBpm of the take, at its own speed */
  begin(play: number, state: Omit<PlayingState, 'sinceHubMs'>, tempoBpm: number): void {
    // Only what is heard of it was set anew: what is recorded there is one.
    const goesOn = this.punched === 'in' && this.playing !== null && isSamePunch(this.playing.state, state);
    this.letGo(goesOn);
    this.playing = { play, state: { ...state, sinceHubMs: this.world.nowMs() } };
    this.queue = [];
    this.next = this.knownUntilMs = 0;
    this.last = this.asked = false;
    this.punched = goesOn ? 'in' : 'not yet';
    this.world.changed(tempoBpm * state.speed);
  }

  /** More of it; `last`: there is nothing after this. */
  more(play: number, messages: readonly DueMessage[], untilMs: number, last: boolean): void {
    if (this.playing?.play !== play) return;
    this.queue = [...this.queue.slice(this.next), ...messages];
    this.next = 0;
    this.knownUntilMs = untilMs;
    this.last = last;
    this.asked = false;
  }

  stop(): void {
    if (!this.playing) return;
    this.letGo();
    this.playing = null;
    this.world.changed(null);
  }

  tick(): void {
    const { playing } = this;
    if (!playing) return;
    const playedMs = this.world.nowMs() - playing.state.sinceHubMs;
    const atMs = playing.state.fromMs + playedMs * playing.state.speed;
    this.punch(atMs, playing.state.punch);
    for (let message = this.queue[this.next]; message && message.dueMs <= playedMs; message = this.queue[this.next]) {
      this.next++;
      if (message.bytes[0]! >= STATUS.noteOff) this.away.hear(message.output, message.bytes);
      this.world.play(message.output, message.bytes, message.ofVoice);
    }
    // Where the take is silent, what is recorded into it goes on.
    const isOver = this.last && !(atMs < (playing.state.punch?.toMs ?? -Infinity));
    if (this.next >= this.queue.length && (isOver || (!this.last && playedMs - this.knownUntilMs > STARVED_MS))) return this.stop();
    if (this.asked || this.last || this.knownUntilMs - playedMs > AHEAD_MS) return;
    this.asked = true;
    this.world.wants(playing.play, this.knownUntilMs);
  }

  private punch(atMs: number, place: PlayingState['punch']): void {
    if (!place) return;
    if (this.punched === 'not yet' && atMs >= place.fromMs && atMs < place.toMs) {
      this.punched = 'in';
      this.world.punch(true);
    }
    if (this.punched === 'in' && atMs >= place.toMs) this.punchOut();
  }

  private punchOut(): void {
    if (this.punched !== 'in') return;
    this.punched = 'out';
    this.world.punch(false);
  }

  private letGo(punchGoesOn = false): void {
    if (!this.playing) return;
    if (!punchGoesOn) this.punchOut();
    this.world.endNotes();
    for (const { output, bytes } of this.away.letGo()) this.world.play(output, bytes, false);
  }
}

/** Whether one play of a take goes on where another is in the middle of what it records. */
function isSamePunch(one: PlayingState, { take, version, speed, punch, fromMs }: Omit<PlayingState, 'sinceHubMs'>): boolean {
  if (!punch || one.take !== take || one.version !== version || one.speed !== speed) return false;
  return one.punch?.fromMs === punch.fromMs && one.punch.toMs === punch.toMs && fromMs >= punch.fromMs && fromMs < punch.toMs;
}
