import type { ActiveSet } from './activeSet';
import type { Ensemble } from './ensemble/ensemble';
import type { Plan } from './plan';
import type { Running } from './running';
import type { Transport } from './transport';
import type { VoiceMemory } from './voices/memory';

/** What may be seen of an engine from outside; nothing here changes what it says. */
export abstract class EngineView {
  protected abstract readonly r: Running;
  protected abstract readonly transport: Transport;

  get plan(): Plan {
    return this.r.plan;
  }

  get values(): Float64Array {
    return this.r.memory.values;
  }

  get levels(): Float64Array {
    return this.r.memory.levels;
  }

  get on(): Uint8Array {
    return this.r.memory.on;
  }

  get movedMappings(): ActiveSet {
    return this.r.movedMappings;
  }

  get movedSignals(): ActiveSet {
    return this.r.movedSignals;
  }

  get movedVoices(): ActiveSet {
    return this.r.movedVoices;
  }

  /** What is known of the voices, to be shown; read only. */
  get voices(): VoiceMemory {
    return this.r.memory.voices;
  }

  get tempoBpm(): number {
    return this.transport.tempoBpm;
  }

  get running(): boolean {
    return this.transport.running;
  }

  /** The tempo that was tapped and is not what the rig says; null where none is. */
  get tappedBpm(): number | null {
    return this.transport.tappedBpm;
  }

  /** The beat of the piece at a time; where it was stopped while it stands. */
  positionAt(timeMs: number): number {
    return this.transport.positionAt(timeMs);
  }

  /** What is known of the ensemble, to be shown; read only. */
  get ensemble(): Ensemble {
    return this.r.ensemble;
  }

  /** Whether members played or were switched since the caller last said that it knows. */
  get movedMembers(): boolean {
    return this.r.movedMembers;
  }

  set movedMembers(moved: boolean) {
    this.r.movedMembers = moved;
  }

  /** Whether ticks are needed. */
  get pending(): boolean {
    return this.quietUntilMs < Infinity || this.dueMs < Infinity;
  }

  /**
   * Until when ticks at an even rate have nothing to do, because samples alone move what moves: -Infinity where they have now,
   * Infinity where nothing moves. It may be earlier than need be, until the next tick. What has a moment of its own is not in it, see
   * `dueMs`.
   */
  get quietUntilMs(): number {
    const { active, moving, memory, quietUntilMs } = this.r;
    if (memory.voices.active.size > 0 || memory.glides.size > 0 || moving.size > 0) return -Infinity;
    return active.size === 0 ? Infinity : quietUntilMs[0]!;
  }

  /** When a tick is wanted at the latest, besides those that come at an even rate; Infinity for never. */
  get dueMs(): number {
    return this.r.due[0]!;
  }
}
