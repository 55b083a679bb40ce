import { ExampleBook, type Taught } from '../../gesture/exampleBook';

/** A mouth sound that was taught by strikes. Plain data. */
export type TaughtSound = Taught;

export const SOUNDS_MOST = 8;
const LEAST_SPREAD_DB = 1.5;

/** Mouth sounds that can be told apart. */
export class SoundBook extends ExampleBook {
  constructor(taught: readonly TaughtSound[]) {
    super(taught, LEAST_SPREAD_DB);
  }
}
