import { BY_SCENE, BY_THRU, VOICE_BASE } from '../core/engine/sink';
import type { InTurn, IntroduceHow } from '../protocol/live';

/** One alone always ends, at the latest after this; one of several ends with the page that introduces them. */
const LONGEST_MS = 30_000;
/** One sweep from end to end and back. */
const SWEEP_MS = 4000;
/** Presses of a note or another message that happens at once: on for half of this. */
const PRESS_MS = 1000;

/** One mapping that is sent alone, so that a receiver learns it and nothing else. */
export class Introduction {
  /** Mappings whose messages were held back meanwhile, by index in the plan. */
  withheld = new Set<number>();

  constructor(
    /** Its index in the plan, as it is now. */
    public mapping: number,
    readonly id: string,
    readonly how: IntroduceHow,
    private readonly startMs: number,
    /** Where it is one of several, each until the next; null where it is one alone. */
    readonly inTurn: InTurn | null = null,
  ) {}

  /** Told when a tablet asks for the next. */
  onNext: () => void = () => undefined;

  /** Whether a message is silent meanwhile; a mapping is remembered for the end of it. Panic and clock go on. */
  holdsBack(by: number): boolean {
    if (by === this.mapping || (by < 0 && by !== BY_SCENE && by !== BY_THRU)) return false;
    if (by >= 0 && by < VOICE_BASE) this.withheld.add(by);
    return true;
  }

  isOver(nowMs: number): boolean {
    return this.inTurn === null && nowMs - this.startMs >= LONGEST_MS;
  }

  get untilHubMs(): number {
    return this.startMs + LONGEST_MS;
  }

  /** The level to send now: up and down slowly, or pressed and let go of. */
  level(nowMs: number, isPress: boolean): number {
    const passedMs = nowMs - this.startMs;
    if (isPress) return passedMs % PRESS_MS < PRESS_MS / 2 ? 1 : 0;
    const part = (passedMs % SWEEP_MS) / SWEEP_MS;
    return part < 0.5 ? 2 * part : 2 - 2 * part;
  }
}
