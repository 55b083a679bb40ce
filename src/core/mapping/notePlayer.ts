import type { NoteSpec } from '../rig/document';
import { clamp } from '../units/unitInterval';
import { CHORD_MOST, RELEASE_VELOCITY, type NoteBook } from './noteBook';
import { NONE } from './planMapping';
import type { PlannedMapping } from './planMapping';
import { SLOT, SLOTS } from './slots';

const FASTEST_REPEAT_HZ = 100;

/** Strikes, holds, repeats and ends the notes of mappings, by what their note message says. */
export class NotePlayer {
  constructor(
    private readonly book: NoteBook,
    private readonly state: Float64Array,
    private readonly values: Float64Array,
    public tempoBpm: number,
  ) {}

  /** A press begins or ends. True where ticks are needed from now on. */
  press(m: number, mapping: PlannedMapping, message: NoteSpec, on: boolean, level: number, nowMs: number): boolean {
    const at = m * SLOTS;
    if (message.length === 'untilPressedAgain') {
      if (!on) return false;
      if (this.book.soundingOf(m) < 0) return this.strike(m, mapping, message, level, nowMs);
      this.end(m, mapping, message);
      return false;
    }
    if (!on) {
      this.state[at + SLOT.repeatMs] = NaN;
      if (typeof message.length !== 'object') this.end(m, mapping, message);
      return false;
    }
    const timed = this.strike(m, mapping, message, level, nowMs);
    const everyMs = this.repeatEveryMs(mapping, message);
    this.state[at + SLOT.repeatMs] = everyMs > 0 ? nowMs + everyMs : NaN;
    return timed || everyMs > 0;
  }

  /** On samples and ticks: notes of fixed length end, repeated ones come again. */
  keep(m: number, mapping: PlannedMapping, nowMs: number): void {
    const { message } = mapping.rig;
    if (message.kind !== 'note') return;
    const at = m * SLOTS;
    if (nowMs >= this.state[at + SLOT.offMs]!) this.end(m, mapping, message);
    const dueMs = this.state[at + SLOT.repeatMs]!;
    if (!(nowMs >= dueMs)) return;
    this.strike(m, mapping, message, this.state[at + SLOT.levelBefore]!, nowMs);
    const everyMs = this.repeatEveryMs(mapping, message);
    // From the time it was due, so that repeats do not drift; one that was missed is not made up for.
    this.state[at + SLOT.repeatMs] = everyMs > 0 ? Math.max(dueMs + everyMs, nowMs) : NaN;
  }

  /** Ends everything of a mapping that sounds or is still to come, and forgets that it is held. */
  silence(m: number): void {
    const at = m * SLOTS;
    this.book.endAll(m);
    this.state[at + SLOT.offMs] = NaN;
    this.state[at + SLOT.repeatMs] = NaN;
    this.state[at + SLOT.gate] = 0;
    this.state[at + SLOT.held] = 0;
  }

  /** True where the notes end by themselves, which needs ticks. */
  private strike(m: number, mapping: PlannedMapping, message: NoteSpec, level: number, nowMs: number): boolean {
    const velocity = velocityOf(message, level, this.state[m * SLOTS + SLOT.slope]!);
    const release = message.releaseVelocity ?? RELEASE_VELOCITY;
    this.end(m, mapping, message);
    for (let i = 0; i < sizeOf(message); i++) {
      const note = noteOf(message, i);
      if (note >= 0 && note <= 127) this.book.strike(mapping.output, m, message.channel, note, velocity, release);
    }
    if (typeof message.length !== 'object') return false;
    this.state[m * SLOTS + SLOT.offMs] = nowMs + message.length.ms;
    return true;
  }

  private end(m: number, mapping: PlannedMapping, message: NoteSpec): void {
    this.state[m * SLOTS + SLOT.offMs] = NaN;
    const release = message.releaseVelocity ?? RELEASE_VELOCITY;
    for (let i = 0; i < sizeOf(message); i++) {
      const note = noteOf(message, i);
      if (note >= 0 && note <= 127) this.book.end(mapping.output, m, message.channel, note, release);
    }
  }

  private repeatEveryMs(mapping: PlannedMapping, { repeat }: NoteSpec): number {
    if (!repeat) return 0;
    if ('beats' in repeat) return (repeat.beats * 60_000) / this.tempoBpm;
    const rateHz = mapping.repeatRate === NONE ? (repeat.rateHz as number) : this.values[mapping.repeatRate]!;
    return rateHz > 0 ? 1000 / Math.min(rateHz, FASTEST_REPEAT_HZ) : 0;
  }
}

const sizeOf = ({ chord }: NoteSpec) => (chord ? Math.min(chord.length, CHORD_MOST) : 1);
const noteOf = ({ note, chord, transpose = 0 }: NoteSpec, i: number) => note + transpose + (chord?.[i] ?? 0);

function velocityOf({ velocity, velocityFrom = 'fixed' }: NoteSpec, level: number, slopePerS: number): number {
  if (velocityFrom === 'fixed') return velocity;
  const share = velocityFrom === 'strength' ? level : slopePerS / velocityFrom.fullSpeedPerS;
  return clamp(Math.round(share * velocity), 1, 127);
}
