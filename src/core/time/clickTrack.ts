import { clicksBetween, type Click } from './clicks';
import { beatAt, beatsPerBar, msAt, msPerBeat, type MusicalTime } from './musicalTime';

/** Clicks are given this much ahead: a window that is busy, or in the background and looks once a second, leaves none out. */
const AHEAD_MS = 1500;
/** The beat that begins a count is heard of a little after it came: up to so much later it is still given. */
const LATE_MS = 100;
/** Two clicks nearer than this are one that was moved, by a nudge or a clock. */
const APART_MS = 60;
/** Nearer than this two times are the same beats. */
const SAME_MS = 1;

/** What is clicked: the beats of a time, in a meter, before one of them. */
export interface Clicked {
  time: MusicalTime;
  meter: readonly [many: number, unit: number];
  untilBeat: number;
}

/** Says which clicks to give to a sound card ahead of time, and which to take back because the time has changed since. */
export class ClickTrack {
  /** Given for later. */
  private given: Click[] = [];
  private heardMs = -Infinity;
  private upToMs = -Infinity;
  private clicked: Clicked | null = null;

  /**
   * Call every now and then. What was too late when it was looked for is left out, not made up for.
   * @returns whether all that was given for a time after `nowMs` is to be taken back, and then what to give
   */
  look(nowMs: number, clicked: Clicked): { takesBack: boolean; give: Click[] } {
    const { time, meter, untilBeat } = clicked;
    const begins = time.anchorMs !== this.clicked?.time.anchorMs && Math.abs(nowMs - time.anchorMs) < LATE_MS;
    const takesBack = this.clicked !== null && !isSame(clicked, this.clicked);
    this.heardMs = this.given.findLast(({ atMs }) => atMs <= nowMs)?.atMs ?? this.heardMs;
    this.given = takesBack ? [] : this.given.filter(({ atMs }) => atMs > nowMs);
    if (takesBack) this.upToMs = nowMs;
    this.clicked = { time: { ...time }, meter, untilBeat };
    const fromMs = begins ? time.anchorMs - LATE_MS / 2 : Math.max(this.upToMs, nowMs);
    this.upToMs = nowMs + AHEAD_MS;
    const give: Click[] = [];
    for (const click of clicksBetween(time, meter, fromMs, Math.min(this.upToMs, msAt(time, untilBeat)))) {
      if (click.atMs - (this.given.at(-1)?.atMs ?? this.heardMs) < APART_MS) continue;
      this.given.push(click);
      give.push(click);
    }
    return { takesBack, give };
  }
}

/** Whether both click the same bars and beats, also where they count from another bar. */
function isSame(a: Clicked, b: Clicked): boolean {
  if (a.time.bpm !== b.time.bpm || a.meter[0] !== b.meter[0] || a.meter[1] !== b.meter[1]) return false;
  const barBeats = beatsPerBar(a.meter);
  const bars = (beatAt(b.time, a.time.anchorMs) - a.time.anchorBeat) / barBeats;
  if (Math.abs(bars - Math.round(bars)) * barBeats * msPerBeat(a.time.bpm) > SAME_MS) return false;
  const [end, other] = [msAt(a.time, a.untilBeat), msAt(b.time, b.untilBeat)];
  return end === other || Math.abs(end - other) < SAME_MS;
}
