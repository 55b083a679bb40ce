import type { NamedFact } from '../../live/store';

/** So many are kept to be searched and exported. */
const KEPT = 10_000;

/** What a list shows at one time; it stays as it is while more is heard. */
export interface Listed {
  count: number;
  /** How many were listed before its newest, with those that are not kept any more. */
  before: number;
  /** @param place 0 for the newest */
  at(place: number): NamedFact;
}

/** The latest facts that entered and left, and those of them that are looked for. */
export class FactLog {
  /** Oldest first; trimmed only now and then, as that costs more than adding. Each is looked at once, and again where another is looked for. */
  private kept: NamedFact[] = [];
  private shown: NamedFact[] = [];
  /** What was kept when the list was held, to be searched; null while it goes on. */
  private held: readonly NamedFact[] | null = null;
  /** How many were shown and are not kept any more. */
  private gone = 0;
  private shows: (fact: NamedFact) => boolean = () => true;
  /** How many came too fast to be heard of. */
  missed = 0;

  hear(facts: readonly NamedFact[], missed: number): void {
    this.missed += missed;
    for (const fact of facts) {
      this.kept.push(fact);
      if (!this.held && this.shows(fact)) this.shown.push(fact);
    }
    this.kept = trimmed(this.kept);
    const before = this.shown.length;
    this.shown = trimmed(this.shown);
    this.gone += before - this.shown.length;
  }

  lookFor(shows: (fact: NamedFact) => boolean): void {
    this.shows = shows;
    this.shown = (this.held ?? this.kept).filter(shows);
    this.gone = 0;
  }

  /** The list stands still, and what comes meanwhile is kept; or it goes on with that. */
  hold(held: boolean): void {
    this.held = held ? [...this.kept] : null;
    this.lookFor(this.shows);
  }

  clear(): void {
    this.kept = [];
    if (this.held) this.held = [];
    this.missed = 0;
    this.lookFor(this.shows);
  }

  get listed(): Listed {
    const { shown, gone } = this;
    // More is added behind these.
    const count = shown.length;
    return { count, before: gone + count - 1, at: (place) => shown[count - 1 - place]! };
  }

  /** All that are listed, oldest first. */
  get all(): readonly NamedFact[] {
    return this.shown;
  }
}

function trimmed(facts: NamedFact[]): NamedFact[] {
  return facts.length > 2 * KEPT ? facts.slice(-KEPT) : facts;
}
