import type { HandsProfile } from '../../core/hands/profile';
import type { Side } from '../../core/hands/landmarks';
import type { LineStatus } from '../live/line';

/** Where hands come from: a camera, whose pictures the page sends; a clip; or a hand that is moved on screen. */
export type HandsFrom = { kind: 'camera'; modelFolder: string } | { kind: 'standIn'; id: string } | { kind: 'moved' };

/** A hand that is moved on screen, each 0 to 1. */
export interface MovedTo {
  x: number;
  y: number;
  closed: number;
  pinched: number;
  turned: number;
  size: number;
}

/** From the page to its worker. */
export type ToTracker =
  | { kind: 'start'; hubUrl: string; report: string; name: string; profile: HandsProfile; from: HandsFrom }
  | { kind: 'profile'; profile: HandsProfile }
  /** A picture of the camera, and when it was taken, in ms since 1970. The next is sent once this one was looked at. */
  | { kind: 'picture'; picture: ImageBitmap; takenMs: number }
  /** Null: it is taken away. */
  | { kind: 'moved'; to: MovedTo | null }
  /** The shape that is shown for the next two seconds is an example. */
  | { kind: 'teach'; name: string }
  | { kind: 'stop' };

/** One hand to be drawn. */
export interface DrawnHand {
  side: Side;
  /** x, y, z of each point, 0 to 1 from the left and the top of the picture as the camera has it. */
  picture: Float64Array;
  gestures: string[];
  pose: string | null;
}

/** How it looks now, told for every picture. */
export interface HandsNow {
  hands: DrawnHand[];
  /** Hands of somebody else. */
  strangers: number;
  /** From the taking of the picture to here, and the part of it that looking took. */
  delayMs: number;
  lookMs: number;
  /** How bright the picture is, 0 to 1; NaN where there is none. */
  light: number;
}

/** From the worker to its page. */
export type FromTracker =
  /** How much of the model is here, 0 to 1; `ready` once it looks. */
  | { kind: 'loading'; share: number }
  | { kind: 'ready' }
  | { kind: 'failed'; sentence: string }
  | { kind: 'now'; now: HandsNow }
  | { kind: 'line'; status: LineStatus; stage: boolean }
  | { kind: 'taughtPose'; name: string; examples: number[][] };
