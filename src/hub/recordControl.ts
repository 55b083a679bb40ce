import type { Engine } from '../core/engine/engine';
import type { EngineEvent } from '../core/engine/event';
import type { Plan } from '../core/engine/plan';
import { msPerBeat, nextGrid } from '../core/time/musicalTime';
import { DEFAULT_RECORD_SETTINGS, type RecordSettings } from '../protocol/recordSettings';
import type { RecordDoes, RecordingState } from '../protocol/takes';
import type { Recorder } from './recorder';
import { hubTimeMs } from './time';

/** The part of the world that it needs; a test brings its own. */
export interface RecordWorld {
  /** Where the piece is now, on which beat; and how long a bar is. */
  song(): { running: boolean; bpm: number; beat: number; barBeats: number };
  after(ms: number, work: () => void): () => void;
  changed(): void;
  nowMs(): number;
}

export const recordWorld = (song: RecordWorld['song'], changed: () => void): RecordWorld => ({
  song,
  changed,
  nowMs: hubTimeMs,
  after(ms, work) {
    const timer = setTimeout(work, ms);
    return () => clearTimeout(timer);
  },
});

/** Whoever begins, ends and marks takes: pages, a gate, a scene, OSC, the transport; counts in where that is wanted. */
export class RecordControl {
  settings: RecordSettings = DEFAULT_RECORD_SETTINGS;
  private counting: { sinceMs: number; untilMs: number; cancel: () => void } | null = null;
  private plan: Plan | null = null;
  private gate = -1;
  private gateOn = false;
  private punched = false;

  constructor(
    private readonly recorder: Pick<Recorder, 'begin' | 'end' | 'keepLast' | 'mark' | 'state'>,
    private readonly world: RecordWorld,
  ) {}

  get state(): RecordingState {
    const { counting } = this;
    return { ...this.recorder.state, counting: counting && { sinceHubMs: counting.sinceMs, untilHubMs: counting.untilMs } };
  }

  /** Does what is asked; false where it cannot be done now. */
  does(what: RecordDoes): boolean {
    switch (what) {
      case 'begin':
        return this.begin();
      case 'end':
        return this.end();
      case 'next':
        // Take after take: the next begins where this one ends, with nothing counted between.
        return this.recorder.end() && this.recorder.begin();
      case 'keep':
        return this.recorder.keepLast();
      case 'mark':
        return this.recorder.mark();
      default:
        return what satisfies never;
    }
  }

  /** An event, before the engine takes it: a gate may be the one that records. */
  hear(event: EngineEvent, engine: Engine): void {
    if ((event.kind !== 'sample' && event.kind !== 'heldOn') || this.settings.gate === null) return;
    if (engine.plan !== this.plan) {
      this.plan = engine.plan;
      this.gate = engine.plan.signalIndex.get(this.settings.gate) ?? -1;
    }
    if (event.signal !== this.gate) return;
    const on = event.value > 0;
    // What was held while its line was lost is no press.
    if (on && !this.gateOn && event.kind === 'sample') this.toggle();
    this.gateOn = on;
  }

  /** A scene was recalled, by whatever. */
  recalled(scene: string): void {
    if (scene === this.settings.scene) this.toggle();
  }

  transport(kind: 'start' | 'continue' | 'stop'): void {
    if (!this.settings.transport) return;
    // Who follows a transport is in time already.
    if (kind === 'stop') this.end();
    else this.beginNow();
  }

  /** A take that plays comes to where another is recorded, or to its end; one that was recorded already is left alone. */
  punch(isIn: boolean): void {
    if (isIn) this.punched = this.beginNow();
    else if (this.punched) this.punched = !this.recorder.end();
  }

  /** Begins with nothing counted; what was being counted is over with that. */
  beginNow(): boolean {
    this.stopCounting();
    return this.recorder.begin();
  }

  set(settings: RecordSettings): void {
    this.settings = settings;
    this.plan = null;
    this.gateOn = false;
  }

  private toggle(): void {
    if (this.counting || this.recorder.state.take !== null) this.end();
    else this.begin();
  }

  private begin(): boolean {
    if (this.counting || this.recorder.state.take !== null) return false;
    const ms = this.countInMs();
    if (ms === 0) return this.recorder.begin();
    const sinceMs = this.world.nowMs();
    const untilMs = sinceMs + ms;
    const cancel = this.world.after(ms, () => {
      this.counting = null;
      // A rig may have gone meanwhile; then the count was for nothing, and the lamp says so.
      if (!this.recorder.begin(untilMs)) this.world.changed();
    });
    this.counting = { sinceMs, untilMs, cancel };
    this.world.changed();
    return true;
  }

  /** What is counted; with a transport that runs whole bars of it, so that a take begins with one. */
  private countInMs(): number {
    const { of, many } = this.settings.countIn;
    if (of === 'seconds') return many * 1000;
    if (many === 0) return 0;
    const { running, bpm, beat, barBeats } = this.world.song();
    const toBarBeats = running ? nextGrid(beat, barBeats) - beat : 0;
    return (toBarBeats + many * barBeats) * msPerBeat(bpm);
  }

  private end(): boolean {
    return this.stopCounting() || this.recorder.end();
  }

  private stopCounting(): boolean {
    if (!this.counting) return false;
    this.counting.cancel();
    this.counting = null;
    this.world.changed();
    return true;
  }
}
