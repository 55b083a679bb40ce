import { HOP_MS } from '../audio';
import { EXAMPLES_OF_A_VOWEL } from '../profile';

/** A vowel is only itself once the window that looks at it holds nothing from before. */
export const VOWEL_SETTLES_MS = 45;
/** The next example is of another moment. */
const EVERY_HOPS = 8;
/** Of audio: who has not sung by then is told so. */
const MOST_MS = 8000;

/** What hears what is sung. */
interface Ear {
  pitch: { hz: number };
  /** The features of the vowel that sounds, null where none does; they cost something. */
  vowelNow: Float64Array | null;
}

/**
 * A vowel that is taught by singing it. The lesson lasts until enough of it was heard, by the time of the audio: a computer that is
 * too busy to hear everything takes longer and learns as much.
 */
export class VowelLesson {
  readonly examples: number[][] = [];
  private heardMs = 0;
  private sungHops = 0;

  constructor(readonly name: string) {}

  /** After a hop was heard. @returns whether the lesson is over */
  hear(ear: Ear): boolean {
    this.heardMs += HOP_MS;
    this.sungHops = ear.pitch.hz > 0 ? this.sungHops + 1 : 0;
    if (this.sungHops * HOP_MS > VOWEL_SETTLES_MS && this.sungHops % EVERY_HOPS === 0) {
      const vowel = ear.vowelNow;
      if (vowel) this.examples.push([...vowel]);
    }
    return this.examples.length === EXAMPLES_OF_A_VOWEL || this.heardMs >= MOST_MS;
  }
}
