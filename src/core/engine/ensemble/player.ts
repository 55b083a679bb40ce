import type { Held, Lasts, Playing } from '../../ensemble/kind';
import type { MemberPart } from '../../ensemble/parts';
import { nextGrid, ON_IT, SAME_MS } from '../../time/musicalTime';
import { clamp } from '../../units/unitInterval';
import { Knowing } from './knowing';
import type { Sounding } from './memory';
import { beginSteps, setRate, stepMs } from './steps';

const OCTAVE = 12;
const LOWEST = 0;
const HIGHEST = 127;
/** As many voices as a voice mapping knows; the oldest makes room. */
const SOUNDING_MOST = 32;
const LATER_MOST = 512;
/** As the key of what nobody will end by it. */
const NO_KEY = -1e9;
const VOICES = 0x3fffffff;

/** One member as it plays: what its kind decides becomes voices in time. */
export class Player extends Knowing implements Playing<MemberPart, object> {
  sound(pitch: number, strike: number, lasts: Lasts, key = NO_KEY): void {
    const { rig } = this.member;
    const sounds = pitch + OCTAVE * rig.octave;
    const hard = clamp(strike * rig.level, 0, 1);
    if (!(sounds >= LOWEST && sounds <= HIGHEST)) return;
    const { sounding } = this.state;
    const again = sounding.find((other) => (key !== NO_KEY && other.key === key) || Math.round(other.pitch) === Math.round(sounds));
    if (again) this.silence(again);
    if (sounding.length >= SOUNDING_MOST) this.silence(sounding[0]!);
    // At level 0 it is as silent as where it is off.
    if (hard <= 0) return;
    this.state.voices = (this.state.voices + 1) & VOICES;
    const { beat, nowMs } = this;
    const begins: Sounding = { voice: this.state.voices, key, pitch: sounds, endBeat: Infinity, endMs: Infinity };
    if (typeof lasts === 'object') {
      if ('beats' in lasts) begins.endBeat = beat + lasts.beats;
      else begins.endMs = nowMs + lasts.ms;
    }
    this.state.sounding.push(begins);
    this.ensemble.emit(this.i, 'on', begins.voice, sounds, hard);
  }

  end(key: number): void {
    const ends = this.state.sounding.find((other) => other.key === key);
    if (ends) this.silence(ends);
  }

  endAll(): void {
    for (const ends of [...this.state.sounding]) this.silence(ends);
  }

  move(pressure: number, slide: number): void {
    for (const { voice } of this.state.sounding) this.ensemble.emit(this.i, 'move', voice, NaN, NaN, pressure, slide);
  }

  later(beats: number, pitch: number, strike: number, lasts: Lasts, key = NO_KEY): void {
    if (this.state.later.length >= LATER_MOST && strike >= 0) return;
    this.state.later.push({ beat: this.beat + beats, pitch, strike, lasts, key });
  }

  private forgetLater(): void {
    this.state.later = [];
  }

  wakeInTime(): void {
    const { beginsBeat } = this;
    if (beginsBeat <= this.beat + ON_IT) this.member.kind.wake?.(this);
    else this.state.wakeBeat = beginsBeat;
  }

  /** Where what begins now does so: at once, at the next beat or the next bar. */
  private get beginsBeat(): number {
    const { begins } = this.member.rig;
    return !this.running || begins === 'now' ? this.beat : nextGrid(this.beat, begins === 'beat' ? 1 : this.barBeats);
  }

  private silence(ends: Sounding): void {
    this.state.sounding = this.state.sounding.filter((other) => other !== ends);
    this.ensemble.emit(this.i, 'off', ends.voice, NaN, NaN);
  }

  /** Another document is in force. @param before the part in the one before */
  edited(before: MemberPart | undefined): void {
    if (before !== this.part && JSON.stringify(before) !== JSON.stringify(this.part)) this.member.kind.edited?.(this);
    this.settle();
  }

  hear(stream: string, held: Held, on: boolean): void {
    this.member.kind.hear?.(this, stream, held, on);
    this.settle();
  }

  moved(pressure: number, slide: number): void {
    this.member.kind.moved?.(this, pressure, slide);
  }

  /** Whether a signal is a gate that this one is played by. */
  isAskedBy(signal: number): boolean {
    const id = this.member.signals.find(({ index }) => index === signal)?.id;
    return id !== undefined && (this.member.kind.asksBy?.(this.part, id) ?? false);
  }

  follow(signal: number, level: number): void {
    const { id } = this.member.signals.find(({ index }) => index === signal)!;
    const before = this.state.levels[id] ?? 0;
    this.state.levels[id] = level;
    if (!this.staysSilent()) this.member.kind.follow?.(this, id, level, before);
    this.settle();
  }

  /** The same by an edit, which is nobody's gesture: a gate that it is played by counts as held already, and begins nothing before it was let go of. */
  followEdit(signal: number, level: number): void {
    if (!(level > 0) || !this.isAskedBy(signal)) return this.follow(signal, level);
    const { levels } = this.state;
    const { id } = this.member.signals.find(({ index }) => index === signal)!;
    const wasOn = (levels[id] ?? 0) > 0;
    levels[id] = level;
    if (!wasOn) this.state.isSilenced ||= this.isHeldOn;
    this.settle();
  }

  /** Begins to go on by steps, or ends that, as there is something to go on with. */
  settle(): void {
    const { state, running } = this;
    const { steps } = this.member.kind;
    if (!steps) return;
    if (!steps.goesOn(this) || this.staysSilent() || (steps.withTransport && !running)) {
      if (Number.isNaN(state.restsMs)) state.restsMs = this.nowMs;
      return;
    }
    // A chord that changes ends and begins at one moment: then the steps go on as if nothing had been.
    if (state.restsMs !== this.nowMs && !Number.isNaN(state.restsMs)) state.anchorBeat = NaN;
    state.restsMs = NaN;
    const every = steps.everyBeats(this);
    if (Number.isNaN(state.anchorBeat)) beginSteps(state, this.beginsBeat, steps.withTransport, every);
    else setRate(state, this.beat, every);
  }

  /** The piece begins anew, or goes on from elsewhere: what was under way ends. */
  begin(): void {
    const { state } = this;
    // What was to end it will not come any more.
    for (const { strike, key } of state.later) if (strike < 0) this.end(key);
    this.forgetLater();
    state.anchorBeat = NaN;
    state.isSilenced = false;
    if (!Number.isNaN(state.wakeBeat)) state.wakeBeat = this.beat;
    for (const sounding of [...state.sounding]) if (sounding.endBeat !== Infinity) this.silence(sounding);
    this.settle();
  }

  /** Ends everything. */
  rest(): void {
    this.forgetLater();
    this.endAll();
    this.forget();
  }

  /** All that sounded was ended by others. */
  forget(): void {
    const { state, member } = this;
    Object.assign(state, { sounding: [], later: [], anchorBeat: NaN, restsMs: NaN, wakeBeat: NaN, more: member.kind.rest?.(state.more, member.rig.part) ?? member.kind.remember() });
  }

  /** Panic ended all that sounded: what is held goes on by nothing before it was let go of, or the piece begins. */
  hush(): void {
    this.forget();
    this.state.isSilenced = this.isHeldOn;
  }

  /** Until what held it on at Panic, or by an edit, was let go of. */
  private staysSilent(): boolean {
    return (this.state.isSilenced &&= this.isHeldOn);
  }

  /** Whether a gate lets it go on by itself, or by what else it follows. */
  private get isHeldOn(): boolean {
    const { steps, isHeldOn } = this.member.kind;
    return steps ? !steps.withTransport && steps.goesOn(this) : (isHeldOn?.(this) ?? false);
  }

  /** When something of this one is due next. */
  get dueMs(): number {
    const { state, ensemble: { transport } } = this;
    let dueMs = stepMs(state, this.member.rig, transport);
    for (const { endBeat, endMs } of state.sounding) dueMs = Math.min(dueMs, endMs, endBeat === Infinity ? Infinity : transport.msAt(endBeat));
    for (const { beat } of state.later) dueMs = Math.min(dueMs, transport.msAt(beat));
    return Number.isNaN(state.wakeBeat) ? dueMs : Math.min(dueMs, transport.msAt(state.wakeBeat));
  }

  /** Does what is due now: ends first. @param late whether it is long past its time, so that nothing but the ends is made up for */
  due(late: boolean): void {
    const { state, nowMs, ensemble: { transport } } = this;
    const untilMs = nowMs + SAME_MS;
    const isDue = (beat: number) => transport.msAt(beat) <= untilMs;
    for (const sounding of [...state.sounding]) if (sounding.endMs <= untilMs || (sounding.endBeat !== Infinity && isDue(sounding.endBeat))) this.silence(sounding);
    const comes = state.later.filter(({ beat }) => isDue(beat));
    if (comes.length > 0) state.later = state.later.filter(({ beat }) => !isDue(beat));
    for (const { pitch, strike, lasts, key } of comes.sort((a, b) => a.beat - b.beat)) {
      if (strike < 0) this.end(key);
      else if (!late) this.sound(pitch, strike, lasts, key);
    }
    if (!Number.isNaN(state.wakeBeat) && isDue(state.wakeBeat)) {
      state.wakeBeat = NaN;
      this.member.kind.wake?.(this);
    }
    if (stepMs(state, this.member.rig, transport) <= untilMs) {
      const { step } = state;
      state.step = late ? Math.max(step + 1, Math.ceil((this.beat - state.anchorBeat) / state.everyBeats)) : step + 1;
      if (!late) this.member.kind.steps!.play(this, step);
    }
    this.settle();
  }
}
