/** A strike that is wanted: which sound, and when, in ms of the clock that strikes are told in. */
export interface Wanted {
  step: number;
  sound: string;
  atMs: number;
}

/** What became of a wanted strike. `lateMs` is less than 0 where it came early. */
export interface Verdict extends Wanted {
  heard: string | null;
  kind: 'hit' | 'wrong' | 'missed';
  lateMs: number;
}

/** A strike further from its time than this is another one. */
const NEAR_MS = 140;

/** A pattern as people write it: names with spaces between, a dot for a rest. */
export function readPattern(text: string): (string | null)[] {
  return text.split(/\s+/).filter((word) => word !== '').map((word) => (word === '.' || word === '-' ? null : word));
}

/** Follows a pattern against a click: what was hit, missed or another sound, and how early or late. */
export class Practice {
  private readonly waiting: Wanted[] = [];
  private next = 0;
  /** Strikes that nothing was wanted for. */
  extra = 0;
  readonly verdicts: Verdict[] = [];

  /** @param startMs when the first step is; the pattern comes again and again */
  constructor(
    private readonly pattern: readonly (string | null)[],
    private readonly stepMs: number,
    private readonly startMs: number,
  ) {}

  /** The step of the pattern at a time; -1 before it begins. */
  stepAt(timeMs: number): number {
    return timeMs < this.startMs ? -1 : Math.floor((timeMs - this.startMs) / this.stepMs) % this.pattern.length;
  }

  /** Something was struck. @param sound null where it is none of those that were taught */
  strike(sound: string | null, atMs: number): Verdict | null {
    this.until(atMs);
    const near = this.waiting.filter((wanted) => Math.abs(wanted.atMs - atMs) <= this.nearMs).sort((a, b) => Number(b.sound === sound) - Number(a.sound === sound) || Math.abs(a.atMs - atMs) - Math.abs(b.atMs - atMs));
    const wanted = near[0];
    if (!wanted) {
      this.extra++;
      return null;
    }
    this.waiting.splice(this.waiting.indexOf(wanted), 1);
    return this.say({ ...wanted, heard: sound, kind: sound === wanted.sound ? 'hit' : 'wrong', lateMs: atMs - wanted.atMs });
  }

  /** Time goes on: what was wanted long enough ago is missed. */
  until(timeMs: number): void {
    for (; this.startMs + this.next * this.stepMs <= timeMs + this.nearMs; this.next++) {
      const step = this.next % this.pattern.length;
      const sound = this.pattern[step];
      if (sound) this.waiting.push({ step, sound, atMs: this.startMs + this.next * this.stepMs });
    }
    while (this.waiting[0] && this.waiting[0].atMs + this.nearMs < timeMs) this.say({ ...this.waiting.shift()!, heard: null, kind: 'missed', lateMs: 0 });
  }

  private get nearMs(): number {
    return Math.min(NEAR_MS, this.stepMs / 2);
  }

  private say(verdict: Verdict): Verdict {
    this.verdicts.push(verdict);
    return verdict;
  }
}

export interface PracticeCount {
  hits: number;
  wrong: number;
  missed: number;
  /** Of what was hit: the middle of how late, NaN where nothing was; and how far from it half of the hits lie. */
  lateMs: number;
  spreadMs: number;
}

export function countOf(verdicts: readonly Verdict[]): PracticeCount {
  const of = (kind: Verdict['kind']) => verdicts.filter((verdict) => verdict.kind === kind);
  const late = of('hit').map(({ lateMs }) => lateMs);
  const lateMs = middleOf(late);
  return { hits: late.length, wrong: of('wrong').length, missed: of('missed').length, lateMs, spreadMs: middleOf(late.map((its) => Math.abs(its - lateMs))) };
}

const middleOf = (numbers: readonly number[]) => [...numbers].sort((a, b) => a - b)[numbers.length >> 1] ?? NaN;
