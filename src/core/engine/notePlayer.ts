import { clamp } from '../units/unitInterval';
import { CHORD_MOST, RELEASE_VELOCITY } from './noteBook';
import { NONE } from './planMapping';
import type { PlannedMapping } from './planMapping';
import { wanted, type Running } from './running';
import { pressStruck } from './send';
import { SLOT, SLOTS } from './slots';
import type { Note } from '../messages/note';

const FASTEST_REPEAT_HZ = 100;

/** Strikes, holds, repeats and ends the notes of mappings, by what their note message says. */
export class NotePlayer {
  constructor(
    private readonly r: Running,
    private readonly tempo: { readonly tempoBpm: number },
  ) {}

  /** A press begins or ends. True where ticks are needed from now on. */
  press(m: number, mapping: PlannedMapping, message: Note, on: boolean, level: number, nowMs: number): boolean {
    const { state } = this.r.memory;
    const at = m * SLOTS;
    const isLatched = message.length === 'untilPressedAgain';
    if (isLatched && !on) return false;
    const goesOn = this.r.notes.soundingOf(m) >= 0 || !Number.isNaN(state[at + SLOT.repeatMs]!);
    if (!on || (isLatched && goesOn)) {
      state[at + SLOT.repeatMs] = NaN;
      if (typeof message.length !== 'object') this.end(m, mapping, message);
      return false;
    }
    return this.begin(m, mapping, message, velocityOf(message, level, state[at + SLOT.slope]!), nowMs);
  }

  /** What a press had begun before its mapping went off comes again, as hard as it was struck. True where ticks are needed from now on. */
  comeBack(m: number, mapping: PlannedMapping, message: Note, nowMs: number): boolean {
    return this.begin(m, mapping, message, this.struck(m, message), nowMs);
  }

  /** Whether an end or another repeat is still to come, which is wanted then. */
  waits(m: number, mapping: PlannedMapping): boolean {
    const { message } = mapping.rig;
    if (message.kind !== 'note') return false;
    const { state } = this.r.memory;
    const endMs = state[m * SLOTS + SLOT.offMs]!;
    const sinceMs = state[m * SLOTS + SLOT.repeatMs]!;
    wanted(this.r, endMs);
    if (Number.isNaN(sinceMs)) return !Number.isNaN(endMs);
    const everyMs = this.repeatEveryMs(mapping, message);
    if (everyMs > 0) wanted(this.r, sinceMs + everyMs);
    return true;
  }

  /** On samples and ticks: notes of fixed length end, repeated ones come again. */
  keep(m: number, mapping: PlannedMapping, nowMs: number): void {
    const { message } = mapping.rig;
    if (message.kind !== 'note') return;
    const at = m * SLOTS;
    if (nowMs >= this.r.memory.state[at + SLOT.offMs]!) this.end(m, mapping, message);
    const { state } = this.r.memory;
    const sinceMs = state[at + SLOT.repeatMs]!;
    if (Number.isNaN(sinceMs)) return;
    const everyMs = this.repeatEveryMs(mapping, message);
    // A rate of 0 stands still; once it is another, its first place is a whole interval away.
    if (everyMs === 0) state[at + SLOT.repeatMs] = nowMs;
    else if (nowMs >= sinceMs + everyMs) {
      // How hard a key is held is known only while it is, and how fast it was struck only then.
      const isHeldHard = message.velocityFrom === 'strength' && state[at + SLOT.gate]! > 0;
      this.strike(m, mapping, message, isHeldHard ? velocityOf(message, state[at + SLOT.levelBefore]!, 0) : this.struck(m, message), nowMs);
      state[at + SLOT.repeatMs] = lastPlaceMs(sinceMs + everyMs, everyMs, nowMs, mapping.repeatRate !== NONE);
    }
    this.waits(m, mapping);
  }

  /** Ends everything of a mapping that sounds or is still to come. */
  silence(m: number): void {
    const at = m * SLOTS;
    this.r.notes.endAll(m);
    this.r.memory.state[at + SLOT.offMs] = NaN;
    this.r.memory.state[at + SLOT.repeatMs] = NaN;
  }

  private begin(m: number, mapping: PlannedMapping, message: Note, velocity: number, nowMs: number): boolean {
    this.strike(m, mapping, message, velocity, nowMs);
    this.r.memory.state[m * SLOTS + SLOT.repeatMs] = message.repeat ? nowMs : NaN;
    return this.waits(m, mapping);
  }

  /** The velocity of the last press; before any was, the one that is asked for. */
  private struck(m: number, { velocity, velocityFrom = 'fixed' }: Note): number {
    return velocityFrom === 'fixed' ? velocity : Math.min(this.r.memory.struck[m]! || velocity, velocity);
  }

  private strike(m: number, mapping: PlannedMapping, message: Note, velocity: number, nowMs: number): void {
    this.r.memory.struck[m] = velocity;
    const release = message.releaseVelocity ?? RELEASE_VELOCITY;
    this.end(m, mapping, message);
    for (let i = 0; i < sizeOf(message); i++) {
      const note = noteOf(message, i);
      if (note >= 0 && note <= 127) this.r.notes.strike(mapping.output, m, message.channel, note, velocity, release);
    }
    pressStruck(this.r, m);
    if (typeof message.length === 'object') this.r.memory.state[m * SLOTS + SLOT.offMs] = nowMs + message.length.ms;
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

/** As late as a tick may be. */
const LATE_MS = 5;

/**
 * The place from which the next repeat is counted, after one that was due at `dueMs`: that time, so that repeats keep their beat, or the
 * last of those that were missed, which are not made up for. Where the rate was `turned` up meanwhile, which is why it was
 * due long ago, it is now: else two would come close together.
 */
function lastPlaceMs(dueMs: number, everyMs: number, nowMs: number, turned: boolean): number {
  if (turned && nowMs - dueMs > LATE_MS) return nowMs;
  return dueMs + everyMs * Math.floor((nowMs - dueMs) / everyMs);
}

const sizeOf = ({ chord }: Note) => (chord ? Math.min(chord.length, CHORD_MOST) : 1);
const noteOf = ({ note, chord, transpose = 0 }: Note, i: number) => note + transpose + (chord?.[i] ?? 0);

function velocityOf({ velocity, velocityFrom = 'fixed' }: Note, level: number, slopePerS: number): number {
  if (velocityFrom === 'fixed') return velocity;
  const share = velocityFrom === 'strength' ? level : slopePerS / velocityFrom.fullSpeedPerS;
  return clamp(Math.round(share * velocity), 1, Math.max(1, velocity));
}
