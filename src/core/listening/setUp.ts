import { HOP_MS } from './audio';

/** What is measured once: silence, then something soft, then something loud. */
export const SET_UP_STEPS = ['silence', 'soft', 'loud'] as const;
export type SetUpStep = (typeof SET_UP_STEPS)[number];

/** One hop of what was heard in a step. */
export interface SetUpHop {
  levelDb: number;
  hz: number;
  clips: boolean;
}

export interface Measured {
  floorDb: number;
  gateDb: number;
  softDb: number;
  loudDb: number;
  /** What is to be done, a sentence each; empty where all is well. */
  remarks: string[];
}

const LEAST_MS = 500;
/** The room must be so much softer than the voice. */
const ROOM_DB = 20;
const LOUD_ROOM_DB = -45;
/** What the mains hum with, and its partials (50 and 60 Hz). */
const HUM_HZ = [100, 120, 150, 180];
const HUM_NEAR = 0.03;
const HUM_SHARE = 0.3;
const HEADROOM_DB = 3;
const BENEATH_SOFT_DB = 3;

const between = (lo: number, value: number, hi: number) => Math.max(lo, Math.min(hi, value));

/** The level that a share of the hops stay below. */
function share(hops: readonly SetUpHop[], part: number): number {
  const levels = hops.map(({ levelDb }) => levelDb).sort((a, b) => a - b);
  return levels[Math.min(levels.length - 1, Math.floor(part * levels.length))] ?? NaN;
}

/**
 * What a performer's levels are and where the gate should lie. Null while a step holds less than half a second.
 * @param heard by step: what was heard in it
 */
export function measured(heard: Readonly<Record<SetUpStep, readonly SetUpHop[]>>): Measured | null {
  if (SET_UP_STEPS.some((step) => heard[step].length * HOP_MS < LEAST_MS)) return null;
  const roomDb = share(heard.silence, 0.95);
  const sung = (step: SetUpStep) => heard[step].filter(({ levelDb }) => levelDb > roomDb + 6);
  const softDb = share(sung('soft'), 0.3);
  const loudDb = share(sung('loud'), 0.8);
  const hum = heard.silence.filter(({ hz }) => HUM_HZ.some((of) => Math.abs(hz / of - 1) < HUM_NEAR)).length / heard.silence.length;
  const clips = heard.loud.filter((hop) => hop.clips).length;
  const remarks: string[] = [];
  if (!Number.isFinite(softDb) || !Number.isFinite(loudDb)) remarks.push('Nothing was heard above the room: come nearer, or turn the microphone up, and measure again.');
  else if (loudDb - roomDb < ROOM_DB) remarks.push('The room is nearly as loud as the voice: come nearer to the microphone.');
  if (roomDb > LOUD_ROOM_DB) remarks.push('The room is loud: switch off what hums and blows, or sing nearer.');
  if (hum > HUM_SHARE) remarks.push('The mains hum is heard: use another cable or socket, and keep the microphone away from power supplies.');
  if (clips > 0) remarks.push('Loud singing is cut off: turn the microphone down until the lamp stays dark.');
  if (softDb > loudDb - 6) remarks.push('Soft and loud are nearly the same: measure again, whispering first and calling out then.');
  // Whatever was measured, there is room for a voice beneath full scale.
  const soft = between(-100, Number.isFinite(softDb) ? softDb : roomDb + 10, -6 - HEADROOM_DB);
  return {
    floorDb: between(-90, roomDb + 6, -30),
    // Above the room, but never above soft singing: then at least the voice is heard.
    gateDb: between(-90, Math.min(Math.max(roomDb + 6, (roomDb + soft) / 2), soft - BENEATH_SOFT_DB), -HEADROOM_DB),
    softDb: soft,
    loudDb: between(soft + 6, Number.isFinite(loudDb) ? loudDb : -10, 0),
    remarks,
  };
}

/** A click comes back within this, or it was not heard. */
const LOOP_MOST_MS = 400;
/** So many clicks must have been heard, and as regularly as this, to be believed. */
const LOOP_LEAST = 3;
const LOOP_SPREAD_MS = 15;

/**
 * From a click that is played to its onset in the microphone: the whole way through speaker, air, microphone and analysis. Null where
 * too few were heard, or what was heard were others. Both in ms of one clock.
 */
export function loopDelayMs(clicksMs: readonly number[], onsetsMs: readonly number[]): number | null {
  const ways = clicksMs.flatMap((click) => {
    const onset = onsetsMs.find((heard) => heard > click && heard - click < LOOP_MOST_MS);
    return onset === undefined ? [] : [onset - click];
  });
  ways.sort((a, b) => a - b);
  const middle = ways[ways.length >> 1];
  if (middle === undefined) return null;
  return ways.filter((way) => Math.abs(way - middle) < LOOP_SPREAD_MS).length >= LOOP_LEAST ? middle : null;
}
