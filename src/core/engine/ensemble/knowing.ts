import type { Harmony } from '../../ensemble/kind';
import type { MemberPart } from '../../ensemble/parts';
import { chance } from '../../signal/oscillator';
import { clamp } from '../../units/unitInterval';
import type { VoiceEvent } from '../../voices/event';
import type { Running } from '../running';
import type { Transport } from '../transport';
import type { MemberState } from './memory';
import type { PlannedMember } from './planEnsemble';

/** What a member needs of the ensemble. */
export interface Beats {
  readonly nowMs: number;
  readonly seed: number;
  readonly transport: Transport;
  readonly heldOn: boolean;
  levelOf(signal: number): number;
  wayMsOf(signal: number): number;
  harmony(stream: string): Harmony | null;
  emit(i: number, kind: VoiceEvent['kind'], voice: number, pitch: number, strike: number, pressure?: number, slide?: number): void;
}

/** Members draw their lots apart. */
const DRAWS = 1e6;

/** Where a signal lies in its range, or at rest where it was never heard; of gates their strength. */
export function levelOf({ plan, memory }: Running, signal: number): number {
  const { range: [lo, hi], rest, kind } = plan.signals[signal]!;
  const value = memory.values[signal]!;
  const known = Number.isNaN(value) ? (rest ?? lo) : value;
  return kind === 'gate' ? clamp(known, 0, 1) : clamp((known - lo) / (hi - lo), 0, 1);
}

/** What a member knows when it decides what to play. What it remembers stands in `state` alone. */
export class Knowing {
  constructor(
    protected readonly ensemble: Beats,
    readonly member: PlannedMember,
    readonly state: MemberState,
    protected readonly i: number,
  ) {}

  get part(): MemberPart {
    return this.member.rig.part;
  }

  get memory(): object {
    return this.state.more;
  }

  get nowMs(): number {
    return this.ensemble.nowMs;
  }

  get beat(): number {
    return this.ensemble.transport.beatAt(this.nowMs);
  }

  get barBeats(): number {
    return this.ensemble.transport.barBeats;
  }

  get running(): boolean {
    return this.ensemble.transport.running;
  }

  get heldOn(): boolean {
    return this.ensemble.heldOn;
  }

  get hasHarmony(): boolean {
    return this.member.kind.harmony !== undefined;
  }

  get harmonyNow(): Harmony | null {
    return this.member.kind.harmony?.(this.state.more) ?? null;
  }

  chance(draw: number): number {
    return chance(this.ensemble.seed + this.i * DRAWS, draw);
  }

  level(signal: string): number {
    const index = this.indexOf(signal);
    return index === undefined ? 0 : this.ensemble.levelOf(index);
  }

  wayMs(signal: string): number {
    const index = this.indexOf(signal);
    return index === undefined ? Infinity : this.ensemble.wayMsOf(index);
  }

  private indexOf(signal: string): number | undefined {
    return this.member.signals.find(({ id }) => id === signal)?.index;
  }

  isOn(gate: string): boolean {
    return this.level(gate) > 0;
  }

  harmony(stream: string): Harmony | null {
    return this.ensemble.harmony(stream);
  }
}
