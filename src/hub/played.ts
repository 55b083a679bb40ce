import type { RigDocument, RigSurface } from '../core/rig/document';
import { surfaceSignals } from '../core/surface/controlKinds';
import { sampleCount, sampleOnPageMs, samplesFault, sampleSignal, sampleTimeMs, sampleValue } from '../protocol/frames';
import { LIMITS } from '../protocol/limits';
import type { ProblemCode } from '../protocol/problem';
import type { Numbering } from './numbering';
import type { Player } from './player';
import { hubTimeMs } from './time';
import type { Watcher } from './watcher';

/** Why a frame was refused. */
export type Refuse = (code: ProblemCode, field: string, message: string) => void;

/** What one page plays: the signals of its surface and no others, and the gates that it holds. */
export class Played {
  /** The surface this page plays, or null for the screens of the bench. */
  surface: string | null = null;
  private known: { rig: RigDocument | null; surface: string | null } | null = null;
  /** The signals that this page may send, and those of them that are gates. */
  private allowed = new Set<number>();
  private gates = new Set<number>();
  private readonly held = new Set<number>();

  constructor(
    private readonly player: Player,
    private readonly watcher: Watcher,
    private readonly refuse: Refuse,
    /** Whether the page is a joined device's, which is told no names. */
    private readonly isDevice: () => boolean,
  ) {}

  /**
   * After the rig or the surface changed: what may be played now.
   * @returns the numbers of what its surface plays and shows; null where that is as before
   */
  allow(): Set<number> | null {
    const { rig, signals } = this.player;
    // Most edits touch neither signals nor surfaces.
    if (this.known && this.known.surface === this.surface && this.known.rig?.signals === rig?.signals && this.known.rig?.surfaces === rig?.surfaces) return null;
    this.known = { rig, surface: this.surface };
    const { plays, shows } = this.surfaceNow ? surfaceSignals(this.surfaceNow) : { plays: [], shows: [] };
    this.allowed = new Set(numbersOf(signals, plays));
    // Its lift would be refused.
    for (const number of this.held) if (!this.allowed.has(number)) this.release(number);
    this.gates = new Set(numbersOf(signals, rig?.signals.flatMap(({ id, kind }) => (kind === 'gate' ? [id] : []))));
    return new Set(numbersOf(signals, [...plays, ...shows]));
  }

  /** Whether the surface of this page plays a signal. */
  plays(signal: string): boolean {
    const number = this.player.signals.find(signal);
    return number !== undefined && this.allowed.has(number);
  }

  get surfaceNow(): RigSurface | undefined {
    return this.player.rig?.surfaces.find((candidate) => candidate.id === this.surface);
  }

  /** Takes a frame of samples: all of it, or, where any of it is wrong, nothing. */
  take(view: DataView): void {
    const fault = samplesFault(view);
    if (fault) return this.refuse('malformed-frame', fault.field, fault.message);
    const count = sampleCount(view);
    for (let i = 0; i < count; i++) {
      const number = sampleSignal(view, i);
      if (!this.allowed.has(number)) {
        const name = (this.isDevice() ? undefined : this.player.signals.idOf(number)) ?? `number ${number}`;
        return this.refuse('unknown-signal', `samples[${i}].signal`, `This page has no control with the signal ${name}.`);
      }
      if (!Number.isFinite(sampleValue(view, i))) {
        return this.refuse('not-finite', `samples[${i}].value`, `The value of ${this.player.signals.idOf(number)} must be a finite number.`);
      }
    }
    const timeMs = believable(sampleTimeMs(view));
    const { outputs } = this.player;
    outputs.arrivedMs = hubTimeMs();
    outputs.onPageMs = sampleOnPageMs(view);
    for (let i = 0; i < count; i++) this.play(sampleSignal(view, i), timeMs, sampleValue(view, i));
  }

  /** Releases the gates that this page holds. */
  letGo(): void {
    for (const number of this.held) this.release(number);
  }

  private play(number: number, timeMs: number, value: number): void {
    if (this.gates.has(number)) {
      if (value > 0) {
        this.held.add(number);
        this.player.pressedBy.set(number, this.watcher);
      } else this.held.delete(number);
    }
    this.player.sample(number, timeMs, value, this.watcher);
  }

  /** A gate that another page has pressed since is that one's: a page that is back is often there before its old line ends. */
  private release(number: number): void {
    this.held.delete(number);
    if (this.player.pressedBy.get(number) !== this.watcher) return;
    this.player.pressedBy.delete(number);
    this.player.sample(number, hubTimeMs(), 0, this.watcher);
  }
}

/** A page's clock is only an estimate of ours: a sample cannot lie in the future, nor far in the past. */
export function believable(saidMs: number): number {
  const nowMs = hubTimeMs();
  return saidMs > nowMs || saidMs < nowMs - LIMITS.sampleAgeMs ? nowMs : saidMs;
}

function numbersOf(numbering: Numbering, ids: readonly string[] = []): number[] {
  return ids.map((id) => numbering.find(id)).filter((number) => number !== undefined);
}
