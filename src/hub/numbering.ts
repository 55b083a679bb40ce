import type { Names } from '../protocol/live';
import { hubTimeMs } from './time';

/** A number that was given back is not given to another for so long: frames that were on their way still mean what they meant. */
const REST_MS = 10_000;
/** What a binary frame can hold, the largest of which stands for none. */
const MOST = 0xffff;
/** Of what was told so far so much is kept; whoever is further behind is told everything. */
const LOG_MOST = 4096;
/** So many that do not rest any more are taken off their list at once. */
const TIDIED = 4096;

export type Numbered = [number: number, id: string];

/** Where somebody stands who is told of the numbers. */
export type Told = number;
export const TOLD_NOTHING: Told = -1;
/** Of somebody who has just begun, by the kind of names. */
export const toldNoNames = (): Record<keyof Names, Told> => ({ signals: TOLD_NOTHING, mappings: TOLD_NOTHING, streams: TOLD_NOTHING, outputs: TOLD_NOTHING });

/** Numbers for ids, as binary frames use them. */
export class Numbering {
  private readonly byNumber: (string | undefined)[] = [];
  private readonly numbers = new Map<string, number>();
  /** In the order in which they were given back; those before the head are in use again. */
  private resting: { number: number; sinceMs: number }[] = [];
  private restingHead = 0;
  /** The numbers that were given out, in order; its first stands at `logStart` of all. */
  private log: number[] = [];
  private logStart = 0;

  constructor(private readonly nowMs: () => number = hubTimeMs) {}

  /** The number of an id, given now where it has none yet. */
  take(id: string): number {
    const known = this.numbers.get(id);
    if (known !== undefined) return known;
    const number = this.rested() ?? this.byNumber.length;
    this.byNumber[number] = id;
    this.numbers.set(id, number);
    this.log.push(number);
    if (this.log.length > LOG_MOST) this.logStart += this.log.splice(0, LOG_MOST / 2).length;
    return number;
  }

  /** Gives back the numbers of all ids but these; the numbers that were given back. */
  retain(ids: ReadonlySet<string>): number[] {
    const freed: number[] = [];
    for (const [id, number] of this.numbers) {
      if (ids.has(id)) continue;
      this.numbers.delete(id);
      this.resting.push({ number, sinceMs: this.nowMs() });
      freed.push(number);
    }
    return freed;
  }

  find(id: string): number | undefined {
    return this.numbers.get(id);
  }

  idOf(number: number): string | undefined {
    return this.byNumber[number];
  }

  /** What somebody has yet to be told, and where they stand then. */
  since(told: Told): { numbered: Numbered[]; told: Told } {
    const end = this.logStart + this.log.length;
    const numbers = told < this.logStart ? this.numbers.values() : this.log.slice(told - this.logStart);
    return { numbered: [...numbers].map((number): Numbered => [number, this.byNumber[number]!]), told: end };
  }

  /** A number that has rested for long enough; where all are in use, the one that rests longest. */
  private rested(): number | null {
    const first = this.resting[this.restingHead];
    if (!first || (this.nowMs() - first.sinceMs < REST_MS && this.byNumber.length < MOST)) return null;
    // Taking the first out of a long list moves all the others, so that is done once in a while for many.
    if (++this.restingHead === TIDIED) {
      this.resting.splice(0, TIDIED);
      this.restingHead = 0;
    }
    return first.number;
  }
}
