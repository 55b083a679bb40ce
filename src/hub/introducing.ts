import type { EngineEvent } from '../core/engine/event';
import type { Plan } from '../core/engine/plan';
import { VOICE_BASE } from '../core/engine/sink';
import type { InTurn, IntroduceHow } from '../protocol/live';
import { Introduction } from './introduction';
import { hubTimeMs } from './time';

/** What an introduction does to the rig that plays. */
export type IntroductionEvent = Omit<Extract<EngineEvent, { kind: 'show' }>, 'timeMs'> | Omit<Extract<EngineEvent, { kind: 'sayAgain' }>, 'timeMs'>;

/** The rig that plays, as far as introducing needs it. */
export interface Introduced {
  plan(): Plan | null;
  isLocked(): boolean;
  happens(event: IntroductionEvent): void;
  /** What moved is to be shown, or ticks are needed from now on. */
  changed(): void;
}

/** One mapping at a time that is sent alone: begins it, carries it on, takes it through edits, and says again what it held back. */
export class Introducing {
  now: Introduction | null = null;

  constructor(
    private readonly rig: Introduced,
    /** Told when one ends by itself. */
    private readonly onEnd: () => void,
  ) {}

  /** False where the rig has no such mapping or voice mapping, or it is on Stage. */
  begin(id: string, how: IntroduceHow, inTurn: InTurn | null): boolean {
    const place = this.placeOf(id);
    if (place < 0 || this.rig.isLocked()) return false;
    this.end();
    // Voices are played by whoever introduces them: they have no level to sweep.
    this.now = new Introduction(place, id, place >= VOICE_BASE ? 'follow' : how, hubTimeMs(), inTurn);
    this.rig.changed();
    return true;
  }

  /** What was held back is sent at its present value. True where there was one. */
  end(): boolean {
    const { now, rig } = this;
    const plan = rig.plan();
    if (!now || !plan) return false;
    this.now = null;
    const { mapping, withheld } = now;
    if (plan.mappings[mapping]?.gateMessage) rig.happens({ kind: 'show', mapping, level: 0 });
    rig.happens({ kind: 'sayAgain', mappings: [mapping, ...withheld] });
    rig.changed();
    return true;
  }

  /**
   * Before another document: an introduction ends, but one of several goes on where its mapping is still there. Gives what takes
   * it up again.
   */
  setAside(): (() => void) | null {
    const { now, rig } = this;
    const plan = rig.plan();
    if (!now?.inTurn || !plan) {
      if (this.end()) this.onEnd();
      return null;
    }
    const withheld = [...now.withheld].map((m) => plan.mappings[m]!.rig.id);
    this.now = null;
    return () => {
      now.mapping = this.placeOf(now.id);
      now.withheld = new Set(withheld.map((id) => this.placeOf(id)).filter((m) => m >= 0));
      this.now = now;
      if (now.mapping >= 0 && !rig.isLocked()) return;
      this.end();
      this.onEnd();
    };
  }

  tick(): void {
    const { now, rig } = this;
    if (!now) return;
    const nowMs = hubTimeMs();
    if (now.isOver(nowMs)) {
      this.end();
      return this.onEnd();
    }
    const { mapping } = now;
    if (now.how === 'sweep') rig.happens({ kind: 'show', mapping, level: now.level(nowMs, rig.plan()!.mappings[mapping]!.gateMessage) });
  }

  /** As what a mapping or voice mapping is named to the sink; less than 0 where the rig has none of this id. */
  private placeOf(id: string): number {
    const { mappings = [], voices = [] } = this.rig.plan() ?? {};
    const v = voices.findIndex(({ rig }) => rig.id === id);
    return v >= 0 ? VOICE_BASE + v : mappings.findIndex(({ rig }) => rig.id === id);
  }
}
