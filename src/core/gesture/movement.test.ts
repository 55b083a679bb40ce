import { describe, expect, it } from 'vitest';
import { play } from '../engine/testPlay';
import { testRig } from '../engine/testRig';
import { applyEdit } from '../rig/edit';
import { addDerived } from '../signal/deriving';
import { randomFrom, seededNoise } from '../standIn/noise';
import { LEAST_EXAMPLES, Movement, MovementFinder, PATH_POINTS, warpedDistance, type MovementExample } from './movement';
import { MovementTaker } from './takeMovement';

type Shape = (share: number) => [x: number, y: number];
const corners = (...points: [number, number][]): Shape => (share) => {
  const at = Math.min(points.length - 1.0001, share * (points.length - 1));
  const [a, b] = [points[Math.floor(at)]!, points[Math.floor(at) + 1]!];
  return [a[0] + (at % 1) * (b[0] - a[0]), a[1] + (at % 1) * (b[1] - a[1])];
};
const SHAPES: Readonly<Record<string, Shape>> = {
  circle: (u) => [Math.sin(2 * Math.PI * u), Math.cos(2 * Math.PI * u)],
  'circle the other way': (u) => [-Math.sin(2 * Math.PI * u), Math.cos(2 * Math.PI * u)],
  flick: corners([0, 0], [2, 0.1], [0, 0]),
  wave: (u) => [Math.sin(6 * Math.PI * u), 0.15 * Math.sin(2 * Math.PI * u)],
  eight: (u) => [Math.sin(2 * Math.PI * u), Math.sin(4 * Math.PI * u)],
  stroke: corners([-1, -0.6], [1, 0.6]),
  ess: (u) => [Math.sin(2 * Math.PI * u), 2 * u - 1],
  square: corners([-1, -1], [1, -1], [1, 1], [-1, 1], [-1, -1]),
};
const LASTS_MS: Readonly<Record<string, number>> = { circle: 1000, flick: 500, wave: 1400, ess: 900 };
const HZ = 60;

interface Moment {
  timeMs: number;
  at: number[];
}

/** Draws as hands do: from rest to rest (Flash and Hogan, 1985: the smoothest way), never twice alike. */
function hand(seed: number) {
  const random = randomFrom(seed * 2654435761);
  const noise = seededNoise(seed);
  let nowMs = 0;
  let last = [0.5, 0.5];
  const said: Moment[] = [];
  const say = (at: number[]) => {
    said.push({ timeMs: nowMs, at: at.map((one) => one + 0.0015 * noise()) });
    last = at;
    nowMs += 1000 / HZ;
  };
  const rest = (ms: number, to = last) => {
    const from = last;
    const untilMs = nowMs + ms;
    for (const beganMs = nowMs; nowMs < untilMs; ) {
      const share = Math.min(1, (2 * (nowMs - beganMs)) / ms);
      say(from.map((at, s) => at + share * (to[s]! - at)));
    }
  };
  return {
    said,
    rest,
    draw(name: string, lastsMs = LASTS_MS[name] ?? 1000, size = 0.2) {
      const shape = SHAPES[name]!;
      const lean = (random() - 0.5) * 0.3;
      const stretch = 1 + (random() - 0.5) * 0.25;
      const middle = [0.4 + 0.2 * random(), 0.4 + 0.2 * random()];
      const place = (u: number) => {
        const [x, y] = shape(u);
        const wobble = 0.05 * Math.sin(2 * Math.PI * (1.6 * u + random() * 0.02));
        return [middle[0]! + size * stretch * (x * Math.cos(lean) - y * Math.sin(lean) + wobble), middle[1]! + (size / stretch) * (x * Math.sin(lean) + y * Math.cos(lean) - wobble)];
      };
      rest(700, place(0));
      for (const beganMs = nowMs; nowMs - beganMs <= lastsMs; ) {
        const t = (nowMs - beganMs) / lastsMs;
        say(place(0.25 * t + 0.75 * t * t * t * (10 - 15 * t + 6 * t * t)));
      }
      rest(500);
    },
    any: random,
  };
}

function taught(name: string, seed: number): MovementExample[] {
  const { draw, said } = hand(seed);
  for (let i = 0; i < LEAST_EXAMPLES; i++) draw(name);
  const taker = new MovementTaker();
  return said.flatMap(({ at, timeMs }) => {
    const example = taker.push(at, timeMs);
    return example && example !== 'too long' && example.durationMs > 0.7 * LASTS_MS[name]! ? [example] : [];
  });
}

const found = (movement: Movement, said: readonly Moment[]) => {
  const finder = new MovementFinder(movement);
  return said.map(({ at, timeMs }) => finder.push(at, timeMs)).filter((strength) => strength > 0);
};

describe('warped distance', () => {
  // Of one signal, two numbers a point: the closed form of a path against itself moved by a constant.
  it('is nothing to itself, and the way between for paths that lie side by side', () => {
    const flat = new Float64Array(PATH_POINTS);
    expect(warpedDistance(flat, flat, 1)).toBe(0);
    expect(warpedDistance(flat, flat.map(() => 0.25), 1)).toBeCloseTo(0.25, 12);
  });
  it('does not mind when something happens, within its band', () => {
    const step = (at: number) => Float64Array.from({ length: PATH_POINTS }, (_, i) => Number(i >= at));
    expect(warpedDistance(step(10), step(13), 1)).toBe(0);
    expect(warpedDistance(step(4), step(20), 1)).toBeGreaterThan(0.3);
  });
});

describe.each(Object.keys(LASTS_MS))('a %s that was drawn three times', (name) => {
  const movement = new Movement(taught(name, 3), 2);

  it('was taken as three examples', () => expect(movement.examples).toHaveLength(LEAST_EXAMPLES));

  it('is found again, once each time, faster and slower, larger and smaller: at least 95 of 100', () => {
    let once = 0;
    for (let i = 0; i < 100; i++) {
      const { draw, said, any } = hand(100 + i);
      draw(name, LASTS_MS[name]! * (0.65 + 0.8 * any()), 0.2 * (0.6 + 0.9 * any()));
      if (found(movement, said).length === 1) once++;
    }
    expect(once).toBeGreaterThanOrEqual(95);
  });

  it('is no other movement, and nothing of five minutes of play', () => {
    const others = Object.keys(SHAPES).filter((other) => other !== name);
    let wrong = 0;
    for (let i = 0; i < 40; i++) {
      const { draw, said } = hand(500 + i);
      draw(others[i % others.length]!);
      wrong += found(movement, said).length;
    }
    const { said, any } = hand(900);
    const swings = Array.from({ length: 2 }, () => Array.from({ length: 14 }, () => [any(), 6.28 * any(), (any() - 0.5) / 3] as const));
    const wanders = Array.from({ length: 300 * HZ }, (_, i): Moment => ({ timeMs: (i * 1000) / HZ, at: swings.map((own) => own.reduce((sum, [hz, phase, size]) => sum + size * Math.sin((2 * Math.PI * hz * i) / HZ + phase), 0.5)) }));
    expect(said).toHaveLength(0);
    expect(wrong + found(movement, wanders).length).toBeLessThanOrEqual(1);
  });
});

describe('a movement', () => {
  it('is stronger the faster it is drawn: half where it is as it was taught', () => {
    const movement = new Movement(taught('circle', 3), 2);
    const strength = (lastsMs: number) => {
      const { draw, said } = hand(21);
      draw('circle', lastsMs);
      return found(movement, said)[0]!;
    };
    expect(strength(1000)).toBeGreaterThan(0.4);
    expect(strength(1000)).toBeLessThan(0.6);
    expect(strength(650)).toBeGreaterThan(strength(1000));
    expect(strength(1500)).toBeLessThan(strength(1000));
  });

  it('is close to what is nearly the same, and far from what is not', () => {
    const [circle, again, flick] = [taught('circle', 3), taught('circle', 8), taught('flick', 3)].map((examples) => new Movement(examples, 2));
    expect(circle!.apartFrom(again!)).toBeLessThan(1);
    expect(circle!.apartFrom(flick!)).toBeGreaterThan(2);
  });

  it('is found where a finger comes down elsewhere and draws at once, and taken without the way there', () => {
    const { draw, said } = hand(77);
    draw('circle');
    // A pad says nothing while nobody touches it, then where the finger is.
    const drawn = said.filter(({ timeMs }) => timeMs >= 690 && timeMs <= 1750).map(({ at, timeMs }) => ({ at, timeMs: timeMs + 2000 }));
    const before = { at: [0.05, 0.9], timeMs: 100 };
    const after = Array.from({ length: 60 }, (_, i) => ({ at: drawn.at(-1)!.at, timeMs: drawn.at(-1)!.timeMs + 16 * (i + 1) }));
    const movement = new Movement(taught('circle', 3), 2);
    expect(found(movement, [before, ...drawn, ...after])).toHaveLength(1);
    const taker = new MovementTaker();
    const examples = [before, ...drawn, ...after].flatMap(({ at, timeMs }) => taker.push(at, timeMs) ?? []);
    expect(examples).toHaveLength(1);
    expect(found(new Movement([examples[0] as MovementExample, ...taught('circle', 4)], 2), said)).toHaveLength(1);
  });

  it('is not found by less than three examples, nor by such as were cut short', () => {
    const examples = taught('circle', 3);
    const { draw, said } = hand(5);
    draw('circle');
    expect(found(new Movement(examples.slice(0, 2), 2), said)).toEqual([]);
    expect(found(new Movement(examples.map(({ durationMs, path }) => ({ durationMs, path: path.slice(0, 7) })), 2), said)).toEqual([]);
  });

  it('is a derived signal of the rig that is on for a moment, also where the last number is the end of it', () => {
    const { draw, said } = hand(31);
    draw('flick');
    const cut = said.slice(0, -20);
    const rig = testRig([]);
    // One signal of the test rig moves along x alone.
    const along = taught('flick', 3).map(({ durationMs, path }) => ({ durationMs, path: path.filter((_, i) => i % 2 === 0) }));
    const { change, id } = addDerived(rig, 'Flick', { op: 'movement', of: ['fog'], spans: [[0, 1]], examples: along });
    const applied = applyEdit(rig, { kind: 'change', changes: [change] });
    if (!applied.ok) throw new Error(applied.message);
    expect(applied.document.derived[0]).toMatchObject({ kind: 'gate', range: [0, 1] });
    const { move, engine, index } = play(applied.document);
    const on: number[] = [];
    const look = () => void (engine.values[index(id)]! > 0 && on.push(engine.values[index(id)]!));
    for (const { at, timeMs } of cut) {
      move('fog', timeMs + 1, Math.min(1, Math.max(0, at[0]!)));
      look();
    }
    for (let timeMs = cut.at(-1)!.timeMs + 4; timeMs < cut.at(-1)!.timeMs + 1200; timeMs += 4) {
      engine.take({ kind: 'tick', timeMs });
      look();
    }
    expect(on.length).toBeGreaterThan(5);
    expect(engine.values[index(id)]).toBe(0);
  });
});
