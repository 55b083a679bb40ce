import { clamp } from '../units/unitInterval';
import { CHORD_MOST, RELEASE_VELOCITY } from './noteBook';
import { NONE } from './planMapping';
import type { PlannedMapping } from './planMapping';
import { wanted, type Running } from './running';
import { SLOT, SLOTS } from './slots';
import type { Note } from '../messages/note';

const FASTEST_REPEAT_HZ = 100;

/** Strikes, holds, repeats and ends the notes of mappings, by what their note message says. */
export class NotePlayer {
  constructor(
    private readonly r: Pick<Running, 'notes' | 'memory' | 'due'>,
    private readonly tempo: { readonly tempoBpm: number },
  ) {}

  /** A press begins or ends. True where ticks are needed from now on. */
  press(m: number, mapping: PlannedMapping, message: Note, on: boolean, level: number, nowMs: number): boolean {
    const at = m * SLOTS;
    if (message.length === 'untilPressedAgain') {
      if (!on) return false;
      if (this.r.notes.soundingOf(m) < 0) return this.strike(m, mapping, message, level, nowMs);
      this.end(m, mapping, message);
      return false;
    }
    if (!on) {
      this.r.memory.state[at + SLOT.repeatMs] = NaN;
      if (typeof message.length !== 'object') this.end(m, mapping, message);
      return false;
    }
    const timed = this.strike(m, mapping, message, level, nowMs);
    const everyMs = this.repeatEveryMs(mapping, message);
    this.comesAgain(at, everyMs > 0 ? nowMs + everyMs : NaN);
    return timed || everyMs > 0;
  }

  /** On samples and ticks: notes of fixed length end, repeated ones come again. */
  keep(m: number, mapping: PlannedMapping, nowMs: number): void {
    const { message } = mapping.rig;
    if (message.kind !== 'note') return;
    const at = m * SLOTS;
    if (nowMs >= this.r.memory.state[at + SLOT.offMs]!) this.end(m, mapping, message);
    const dueMs = this.r.memory.state[at + SLOT.repeatMs]!;
    if (!(nowMs >= dueMs)) return;
    this.strike(m, mapping, message, this.r.memory.state[at + SLOT.levelBefore]!, nowMs);
    const everyMs = this.repeatEveryMs(mapping, message);
    // From the time it was due, so that repeats keep their beat; those that were missed are not made up for.
    this.comesAgain(at, everyMs > 0 ? dueMs + everyMs * (1 + Math.max(0, Math.floor((nowMs - dueMs) / everyMs))) : NaN);
  }

  private comesAgain(at: number, timeMs: number): void {
    this.r.memory.state[at + SLOT.repeatMs] = timeMs;
    wanted(this.r, timeMs);
  }

  /** Ends everything of a mapping that sounds or is still to come. */
  silence(m: number): void {
    const at = m * SLOTS;
    this.r.notes.endAll(m);
    this.r.memory.state[at + SLOT.offMs] = NaN;
    this.r.memory.state[at + SLOT.repeatMs] = NaN;
  }

  /** True where the notes end by themselves, which needs ticks. */
  private strike(m: number, mapping: PlannedMapping, message: Note, level: number, nowMs: number): boolean {
    const velocity = velocityOf(message, level, this.r.memory.state[m * SLOTS + SLOT.slope]!);
    const release = message.releaseVelocity ?? RELEASE_VELOCITY;
    this.end(m, mapping, message);
    for (let i = 0; i < sizeOf(message); i++) {
      const note = noteOf(message, i);
      if (note >= 0 && note <= 127) this.r.notes.strike(mapping.output, m, message.channel, note, velocity, release);
    }
    if (typeof message.length !== 'object') return false;
    this.r.memory.state[m * SLOTS + SLOT.offMs] = nowMs + message.length.ms;
    wanted(this.r, nowMs + message.length.ms);
    return true;
  }

  private end(m: number, mapping: PlannedMapping, message: Note): void {
    this.r.memory.state[m * SLOTS + SLOT.offMs] = NaN;
    for (let i = 0; i < sizeOf(message); i++) {
      const note = noteOf(message, i);
      if (note >= 0 && note <= 127) this.r.notes.end(mapping.output, m, message.channel, note);
    }
  }

  private repeatEveryMs(mapping: PlannedMapping, { repeat }: Note): number {
    if (!repeat) return 0;
    if ('beats' in repeat) return (repeat.beats * 60_000) / this.tempo.tempoBpm;
    const rateHz = mapping.repeatRate === NONE ? (repeat.rateHz as number) : this.r.memory.values[mapping.repeatRate]!;
    return rateHz > 0 ? 1000 / Math.min(rateHz, FASTEST_REPEAT_HZ) : 0;
  }
}

const sizeOf = ({ chord }: Note) => (chord ? Math.min(chord.length, CHORD_MOST) : 1);
const noteOf = ({ note, chord, transpose = 0 }: Note, i: number) => note + transpose + (chord?.[i] ?? 0);

function velocityOf({ velocity, velocityFrom = 'fixed' }: Note, level: number, slopePerS: number): number {
  if (velocityFrom === 'fixed') return velocity;
  const share = velocityFrom === 'strength' ? level : slopePerS / velocityFrom.fullSpeedPerS;
  return clamp(Math.round(share * velocity), 1, Math.max(1, velocity));
}
