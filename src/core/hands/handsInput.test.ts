import { describe, expect, it } from 'vitest';
import { HANDS_STAND_INS } from '../standIn/gulls';
import { modelHand, OPEN_HAND, type HandPose } from '../standIn/modelHand';
import { seededNoise } from '../standIn/noise';
import { HandsInput, type HandsSettings } from './handsInput';
import { handSources } from './handSources';
import type { SeenHand } from './landmarks';
import { poseFeatures } from './poses';

const ASPECT = 4 / 3;
const FRAME_MS = 1000 / 30;
const SETTINGS: HandsSettings = { whenLost: 'hold', steady: true, poses: [] };
const all = (bend: number) => ({ index: bend, middle: bend, ring: bend, little: bend });
const hand = (side: 'left' | 'right', pose: Partial<HandPose> = {}) => modelHand({ ...OPEN_HAND, side, ...pose }, ASPECT);

const GATES = new Set(handSources([]).flatMap(({ kind, key }) => (kind === 'gate' ? [key] : [])));

function watching(settings = SETTINGS) {
  const values = new Map<string, number>();
  const log: { key: string; value: number; timeMs: number }[] = [];
  let timeMs = 0;
  const input = new HandsInput(settings, (told) => {
    for (const { key, value } of told) {
      values.set(key, value);
      log.push({ key, value, timeMs });
    }
  });
  const see = (frames: number, hands: (timeMs: number) => SeenHand[]) => {
    for (let i = 0; i < frames; i++) {
      input.push({ timeMs, aspect: ASPECT, hands: hands(timeMs) });
      timeMs += FRAME_MS;
    }
  };
  const began = (key: string) => log.filter((one) => one.key === key && one.value > 0).length;
  return { input, values, log, see, began, wait: (ms: number) => input.wait((timeMs += ms)) };
}

const clip = (id: string) => HANDS_STAND_INS.find((one) => one.id === id)!;

/** 0 to 1 and back within two seconds, resting a while at both ends. */
const toAndFro = (timeMs: number) => Math.min(1, Math.max(0, 0.5 - 0.9 * Math.cos((timeMs / 2000) * 2 * Math.PI)));
const FINGERS = ['index', 'middle', 'ring', 'little'] as const;
const across = (timeMs: number) => 0.3 * Math.cos((timeMs / 6000) * 2 * Math.PI);
/** Hands of the model, with nothing in them but what is said. */
const MOVES: Readonly<Record<string, (timeMs: number) => SeenHand[]>> = {
  closing: (timeMs) => [hand('left', { x: 0.3, bends: all(toAndFro(timeMs)), thumb: toAndFro(timeMs) }), hand('right', { x: 0.7, bends: all(toAndFro(timeMs + 1000)), thumb: toAndFro(timeMs + 1000) })],
  pinching: (timeMs) => [hand('right', { meets: { finger: FINGERS[Math.floor(timeMs / 2000) % 4]!, share: toAndFro(timeMs) } })],
  turning: (timeMs) => [hand('left', { turnDeg: 180 * toAndFro(timeMs) })],
  crossing: (timeMs) => [hand('left', { x: 0.5 - across(timeMs), y: 0.55 }), hand('right', { x: 0.5 + across(timeMs), y: 0.4 })],
};

describe('hands before a camera', () => {
  it('tell only what they have as sources', () => {
    const { values, see } = watching({ ...SETTINGS, whenLost: 'rest' });
    for (const { at } of HANDS_STAND_INS) see(200, at);
    const keys = new Set(handSources([]).map(({ key }) => key));
    expect([...values.keys()].filter((key) => !keys.has(key))).toEqual([]);
  });

  it('a still hand, trembling as a camera has it, moves its signals by no more than 1 % of their range', () => {
    const noise = seededNoise(3);
    const { log, see } = watching();
    const still = hand('right', { bends: all(0.4), thumb: 0.4 });
    see(300, () => [{ ...still, picture: still.picture.map((at) => at + 0.001 * noise()), world: still.world.map((at) => at + 0.0007 * noise()) }]);
    for (const { key, kind, range } of handSources([])) {
      if (kind !== 'continuous' || !key.startsWith('right')) continue;
      const told = log.filter((one) => one.key === key && one.timeMs > 1000).map(({ value }) => value);
      const mean = told.reduce((sum, value) => sum + value, 0) / told.length;
      const strays = Math.sqrt(told.reduce((sum, value) => sum + (value - mean) ** 2, 0) / told.length);
      expect(strays / (range[1] - range[0]), key).toBeLessThanOrEqual(0.01);
    }
  });

  it.each([
    ['closing', 'left fist', 5],
    ['closing', 'right fist', 6],
    ['closing', 'left open', 6],
    ['pinching', 'right pinch', 2],
    ['pinching', 'right thumb to middle', 1],
    ['pinching', 'right thumb to ring', 1],
    ['pinching', 'right thumb to little', 1],
    ['turning', 'left back', 5],
  ])('of ten seconds of %s finds %s as often as it is there', (move, key, times) => {
    const { see, began } = watching();
    see(300, MOVES[move]!);
    expect(began(key)).toBe(times);
  });

  // What the finder saw of rendered hands, once through each clip: what is in it, and nothing else.
  it.each<[string, number, Record<string, number>]>([
    ['circle', 24, { 'left open': 1, 'left palm': 1 }],
    ['fists', 40, { 'left open': 3, 'left palm': 1, 'left fist': 2 }],
    ['pinches', 40, { 'left open': 1, 'left palm': 1, 'left pinch': 2 }],
    ['turning', 32, { 'left open': 1, 'left palm': 2, 'left back': 1 }],
    ['crossing', 36, { 'left open': 1, 'left palm': 1, 'right open': 1, 'right palm': 1 }],
  ])('of the recorded clip %s finds what is there, and nothing else', (id, pictures, wanted) => {
    const { see, log } = watching();
    see(2 * pictures - 1, clip(id).at);
    const found: Record<string, number> = {};
    for (const { key, value } of log) if (value > 0 && GATES.has(key) && !key.endsWith('there')) found[key] = (found[key] ?? 0) + 1;
    expect(found).toEqual(wanted);
  });

  it('a pointing hand points, and is no fist', () => {
    const { see, values } = watching();
    see(20, () => [hand('right', { bends: { index: 0, middle: 1, ring: 1, little: 1 }, thumb: 1 })]);
    expect([values.get('right pointing'), values.get('right fist')]).toEqual([1, undefined]);
  });

  it('left and right keep their names when they cross, whatever the tracker calls them meanwhile', () => {
    const { see, log } = watching();
    see(180, (timeMs) => {
      const hands = MOVES.crossing!(timeMs);
      // While they lie over each other every other picture calls them the wrong way, and one is not seen at all for a while.
      const near = Math.abs(hands[0]!.picture[0]! - hands[1]!.picture[0]!) < 0.2;
      if (!near) return hands;
      return timeMs % 100 < 50 ? hands.map((one) => ({ ...one, side: one.side === 'left' ? ('right' as const) : ('left' as const) })) : [hands[0]!];
    });
    // The left one lies higher all the time.
    const heights = (side: string) => log.filter(({ key }) => key === `${side} palm y`).map(({ value }) => value);
    expect(Math.min(...heights('left'))).toBeGreaterThan(0.5);
    expect(Math.max(...heights('right'))).toBeLessThan(0.45);
  });

  it('who was called wrongly from the beginning is put right', () => {
    const { see, values } = watching();
    see(1, () => [{ ...hand('left', { x: 0.3 }), side: 'right' }]);
    see(60, () => [hand('left', { x: 0.3 })]);
    expect(values.get('left there')).toBe(1);
    expect(values.get('right there')).toBe(0);
  });

  it('somebody else in the picture takes nothing over', () => {
    const { see, values, input } = watching();
    const own = hand('right', { x: 0.7, size: 0.25 });
    see(30, () => [own]);
    // Smaller, further back, called the right hand: beside the performer, then alone.
    const other = hand('right', { x: 0.2, size: 0.1 });
    see(30, () => [other, own]);
    expect(input.strangers).toBe(1);
    see(30, () => [other]);
    expect([values.get('right there'), values.get('right palm x')!.toFixed(1), values.get('left there')]).toEqual([0, '0.7', undefined]);
    see(5, () => [other, own]);
    expect(values.get('right there')).toBe(1);
  });

  it('a hand elsewhere, soon after the own one went, must stay to be believed: two that flit by are not one that stayed', () => {
    const { see, values } = watching();
    // Somebody further back is in every picture.
    const audience = hand('left', { x: 0.5, y: 0.2, size: 0.07 });
    see(30, () => [hand('right', { x: 0.1, size: 0.18 }), audience]);
    see(20, () => [audience]);
    expect(values.get('right there')).toBe(0);
    const elsewhere = hand('right', { x: 0.9, y: 0.8, size: 0.16 });
    see(2, () => [elsewhere, audience]);
    see(20, () => [audience]);
    see(2, () => [elsewhere, audience]);
    expect(values.get('right there')).toBe(0);
    see(20, () => [elsewhere, audience]);
    expect(values.get('right there')).toBe(1);
  });

  it('a hand that is lost is not there, does nothing, and holds its numbers or goes to rest', () => {
    for (const whenLost of ['hold', 'rest'] as const) {
      const { see, values, wait } = watching({ ...SETTINGS, whenLost });
      see(20, () => [hand('left', { x: 0.2, bends: all(1), thumb: 1 })]);
      expect([values.get('left there'), values.get('left fist'), values.get('left closure')!.toFixed(1)]).toEqual([1, 1, '1.0']);
      // Between the pictures of a slow camera it is there still.
      wait(400);
      expect(values.get('left there')).toBe(1);
      wait(400);
      expect([values.get('left there'), values.get('left fist')]).toEqual([0, 0]);
      expect(values.get('left palm x')!.toFixed(1)).toBe(whenLost === 'hold' ? '0.2' : '0.5');
    }
  });

  it('points that are missing or no numbers are no hand, and such as all lie in one place say no number that is none', () => {
    const { see, values } = watching();
    const broken = hand('left');
    broken.world[7] = NaN;
    see(10, () => [broken, { ...hand('right'), world: new Float64Array(0) }]);
    expect(values.size).toBe(0);
    see(10, () => [{ side: 'left', picture: hand('left').picture, world: new Float64Array(63) }]);
    expect(values.get('left there')).toBe(1);
    expect([...values].filter(([, value]) => !Number.isFinite(value))).toEqual([]);
  });

  it('a shape that was shown is known again, by either hand, turned and further away; another is not', () => {
    const noise = seededNoise(5);
    const shaking = (side: 'left' | 'right', pose: Partial<HandPose>) => {
      const of = hand(side, pose);
      return { ...of, world: of.world.map((at) => at + 0.002 * noise()) };
    };
    const horn = { bends: { index: 0, middle: 1, ring: 1, little: 0 }, thumb: 0.8 };
    const three = { bends: { index: 0, middle: 0, ring: 0, little: 1 }, thumb: 0.9 };
    const examples = (pose: Partial<HandPose>) => Array.from({ length: 20 }, () => poseFeatures(shaking('left', pose).world, 'left'));
    const { see, values } = watching({ ...SETTINGS, poses: [{ name: 'horn', examples: examples(horn) }, { name: 'three', examples: examples(three) }] });
    see(15, () => [shaking('right', { ...horn, size: 0.14, rollDeg: 40, pitchDeg: 20 })]);
    expect([values.get('right pose horn'), values.get('right pose three')]).toEqual([1, undefined]);
    see(15, () => [shaking('right', { ...three, rollDeg: -30 })]);
    expect([values.get('right pose horn'), values.get('right pose three')]).toEqual([0, 1]);
    see(15, () => [shaking('right', {})]);
    see(15, () => [shaking('right', { bends: all(1), thumb: 1 })]);
    expect([values.get('right pose horn'), values.get('right pose three')]).toEqual([0, 0]);
  });
});
